import { HANDS, INKS, strokeByHand, writeByHand, type Sheet } from './sheet';

/** A tide curve in pencil over pen axes, with red readings. */
export function drawTideCurve(sheet: Sheet): void {
  const { ink, pencil, random, widthMm, heightMm } = sheet;
  const font = random.pick(HANDS);
  const left = 30;
  const right = widthMm - 20;
  const top = 50;
  const bottom = heightMm - 90;
  writeByHand(sheet, ink, 'Tide curve, Gannet Haven', left, 26, { sizeMm: 7, font, colour: INKS.blue });
  strokeByHand(
    sheet,
    ink,
    [
      [left, top - 8],
      [left, (top + bottom) / 2],
      [left, bottom],
    ],
    { widthMm: 0.5, colour: INKS.blue, wanderMm: 0.05 },
  );
  strokeByHand(
    sheet,
    ink,
    [
      [left, bottom],
      [(left + right) / 2, bottom],
      [right, bottom],
    ],
    { widthMm: 0.5, colour: INKS.blue, wanderMm: 0.05 },
  );
  const height = (t: number): number => bottom - ((bottom - top) * (1 - Math.cos(2 * Math.PI * t))) / 2;
  const curve = Array.from({ length: 60 }, (_, i) => [left + ((right - left) * i) / 59, height(i / 59)] as const);
  strokeByHand(sheet, pencil, curve, { widthMm: 0.6, colour: 'rgba(70,70,76,0.85)', wanderMm: 0.12 });
  for (let hour = 0; hour <= 12; hour += 2) {
    const x = left + ((right - left) * hour) / 12;
    strokeByHand(
      sheet,
      ink,
      [
        [x, bottom],
        [x, bottom + 2.5],
      ],
      { widthMm: 0.4, colour: INKS.blue, wanderMm: 0.03 },
    );
    writeByHand(sheet, ink, `${hour} h`, x - 3, bottom + 9, { sizeMm: 5, font, colour: INKS.blue });
    const y = height(hour / 12);
    strokeByHand(
      sheet,
      ink,
      [
        [x - 1.8, y - 1.8],
        [x + 1.8, y + 1.8],
      ],
      { widthMm: 0.5, colour: INKS.red, wanderMm: 0.05 },
    );
    strokeByHand(
      sheet,
      ink,
      [
        [x + 1.8, y - 1.8],
        [x - 1.8, y + 1.8],
      ],
      { widthMm: 0.5, colour: INKS.red, wanderMm: 0.05 },
    );
  }
  for (let m = 0; m <= 5; m++)
    writeByHand(sheet, ink, `${m} m`, left - 12, bottom - ((bottom - top) * m) / 5 + 2, {
      sizeMm: 5,
      font,
      colour: INKS.blue,
    });
  ['springs, moon 15 days old', 'read off at half tide: 2.6 m', 'faint line: the mean of three days'].forEach(
    (note, i) =>
      writeByHand(sheet, pencil, note, left, bottom + 26 + i * 11, { sizeMm: 5.8, font, colour: 'rgba(84,84,90,0.8)' }),
  );
}
