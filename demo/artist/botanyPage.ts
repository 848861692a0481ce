import { HANDS, strokeByHand, writeByHand, type Sheet } from './sheet';

const NAMES = ['Sea campion', 'Thrift', 'Bladder wrack', 'Rock samphire', 'Sea beet'] as const;

/** A pencil plate: a stem with leaves, hatching from faint to dark, labels on leader lines. */
export function drawBotanyPlate(sheet: Sheet): void {
  const { pencil, random, widthMm, heightMm } = sheet;
  const font = random.pick(HANDS);
  const grey = (alpha: number): string => `rgba(62,62,68,${alpha})`;
  const baseX = widthMm * random.between(0.42, 0.55);
  const baseY = heightMm * 0.82;
  const topY = heightMm * 0.16;
  const stem = (t: number): readonly [number, number] => [
    baseX + Math.sin(t * 2.4) * widthMm * 0.06,
    baseY + (topY - baseY) * t,
  ];
  strokeByHand(
    sheet,
    pencil,
    Array.from({ length: 24 }, (_, i) => stem(i / 23)),
    { widthMm: 0.7, colour: grey(0.85) },
  );
  const leaves = random.whole(6, 9);
  for (let i = 0; i < leaves; i++) {
    const [x, y] = stem(0.12 + (0.8 * i) / leaves);
    const side = i % 2 === 0 ? 1 : -1;
    const length = widthMm * random.between(0.17, 0.28) * (1 - (0.4 * i) / leaves);
    const lift = random.between(0.25, 0.6);
    const width = length * random.between(0.2, 0.3);
    const edge = (t: number, s: number): readonly [number, number] => {
      const bulge = Math.sin(Math.PI * t ** 0.8) * width * s;
      return [x + side * (length * t + bulge * lift * 0.5), y - length * lift * t + bulge];
    };
    for (const s of [1, -1]) {
      strokeByHand(
        sheet,
        pencil,
        Array.from({ length: 14 }, (_, k) => edge(k / 13, s)),
        { widthMm: 0.45, colour: grey(0.8) },
      );
    }
    strokeByHand(
      sheet,
      pencil,
      Array.from({ length: 10 }, (_, k) => edge(k / 9, 0)),
      { widthMm: 0.3, colour: grey(0.6) },
    );
    for (let hatch = 1; hatch < 16; hatch++) {
      const t = hatch / 17;
      strokeByHand(sheet, pencil, [edge(t, 0), edge(Math.min(0.98, t + 0.05), random.between(0.4, 0.9))], {
        widthMm: 0.25,
        colour: grey(random.between(0.15, 0.5)),
      });
    }
    if (i % 3 === 0) {
      const [tipX, tipY] = edge(0.9, 0);
      const labelX = side > 0 ? Math.min(widthMm - 44, tipX + 6) : Math.max(10, tipX - 40);
      writeByHand(
        sheet,
        pencil,
        random.pick(['leaf, waxy', 'midrib', 'node', 'toothed edge', 'new shoot']),
        labelX,
        tipY - 6,
        {
          sizeMm: 5.4,
          font,
          colour: grey(0.7),
        },
      );
    }
  }
  writeByHand(sheet, pencil, random.pick(NAMES), widthMm * 0.1, 24, { sizeMm: 8, font, colour: grey(0.9) });
  writeByHand(sheet, pencil, 'Shore log: quadrat survey', widthMm * 0.1, 34, { sizeMm: 5.6, font, colour: grey(0.7) });
  writeByHand(sheet, pencil, `x ${random.whole(2, 4)}, drawn from life`, widthMm * 0.62, heightMm - 16, {
    sizeMm: 5.4,
    font,
    colour: grey(0.55),
  });
}
