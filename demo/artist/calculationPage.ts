import { HANDS, INKS, strokeByHand, writeByHand, type Sheet } from './sheet';

const OPENINGS = [
  'Set 4: heights at a secondary port',
  'Set 2: springs and neaps',
  'Set 5: depth over the bar',
  'Set 3: rule of twelfths',
] as const;

/** Worked tide calculations: a heading, numbered steps, one boxed answer, a red correction. */
export function drawCalculation(sheet: Sheet): void {
  const { ink, random, widthMm, heightMm } = sheet;
  const font = random.pick(HANDS);
  const pen = random.pick([INKS.blue, INKS.black]);
  const left = random.between(18, 34);
  const sizeMm = 6.2;
  writeByHand(sheet, ink, random.pick(OPENINGS), left, 22, { sizeMm: 7.4, font, colour: pen });
  strokeByHand(
    sheet,
    ink,
    [
      [left, 24.2],
      [widthMm * 0.4, 24.6],
      [widthMm * 0.62, 24.3],
    ],
    { widthMm: 0.45, colour: pen },
  );
  const metres = (low: number, high: number): string => random.between(low, high).toFixed(1);
  const clock = (): string =>
    `${String(random.whole(0, 23)).padStart(2, '0')}${String(random.whole(0, 59)).padStart(2, '0')}`;
  const steps = [
    `1) Skerry Point HW ${clock()}  ${metres(4, 6)} m`,
    `   LW ${clock()}  ${metres(0.4, 1.6)} m`,
    `2) range = ${metres(4, 6)} - ${metres(0.4, 1.6)} = ${metres(3, 5)} m`,
    `   so between neaps and springs`,
    `3) difference at Gannet Haven`,
    `   HW  -00${random.whole(10, 40)}   +0.${random.whole(1, 9)} m`,
    `   LW  -00${random.whole(10, 40)}   -0.${random.whole(1, 9)} m`,
    `4) HW Gannet Haven ${clock()}, ${metres(4, 6)} m`,
    `5) height at ${clock()}:`,
    `   factor 0.${random.whole(20, 90)} from the curve`,
    `   ${metres(0.5, 1.4)} + 0.${random.whole(20, 90)} x ${metres(3, 5)} = ${metres(2, 4)} m`,
    `6) under-keel clearance`,
    `   ${metres(2, 4)} + 1.4 - 1.9 = ${metres(1, 3)} m`,
    `   enough, wind from the south-west`,
    `7) latest time to leave ${clock()}`,
  ];
  const pitch = Math.min(14, (heightMm - 70) / steps.length);
  steps.forEach((step, i) => {
    const indent = step.startsWith('   ') ? 10 : 0;
    writeByHand(sheet, ink, step.trim(), left + indent, 40 + i * pitch, { sizeMm, font, colour: pen });
  });
  const boxTop = 40 + steps.length * pitch;
  writeByHand(sheet, ink, `Answer: ${metres(2, 4)} m above datum`, left + 4, boxTop + 4, {
    sizeMm: 6.8,
    font,
    colour: pen,
  });
  strokeByHand(
    sheet,
    ink,
    [
      [left, boxTop - 4],
      [left + 80, boxTop - 4.4],
      [left + 80.5, boxTop + 8],
      [left, boxTop + 8.2],
      [left, boxTop - 4],
    ],
    {
      widthMm: 0.5,
      colour: pen,
      wanderMm: 0.1,
    },
  );
  writeByHand(sheet, ink, 'check sign!', widthMm - 52, 40 + random.whole(4, 9) * pitch, {
    sizeMm: 5.8,
    font,
    colour: INKS.red,
  });
}
