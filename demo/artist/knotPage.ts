import type { SKRSContext2D } from '@napi-rs/canvas';
import { HANDS, INKS, strokeByHand, writeByHand, type Sheet } from './sheet';

/** Ropework in two inks: thick outlined ropes that cross over and under, with lay lines. */
export function drawKnot(sheet: Sheet): void {
  const { ink, random, widthMm, heightMm } = sheet;
  const font = random.pick(HANDS);
  writeByHand(
    sheet,
    ink,
    random.pick(['Plate 2: bowline and sheet bend', 'Plate 3: figure of eight', 'Plate 1: reef knot']),
    widthMm * 0.12,
    24,
    {
      sizeMm: 7,
      font,
      colour: INKS.black,
    },
  );
  const turns = random.whole(2, 3);
  const knot = (t: number, cx: number, cy: number, r: number): readonly [number, number] => [
    cx + r * (Math.sin(t) + 1.4 * Math.sin(turns * t)) * 0.42,
    cy + r * (Math.cos(t) - 1.4 * Math.cos(turns * t)) * 0.42,
  ];
  const places = [
    { cx: widthMm * 0.5, cy: heightMm * 0.33, colour: INKS.black },
    { cx: widthMm * 0.5, cy: heightMm * 0.7, colour: INKS.red },
  ];
  for (const { cx, cy, colour } of places) {
    const r = Math.min(widthMm, heightMm) * 0.3;
    const points = Array.from({ length: 121 }, (_, i) => knot((i / 120) * 2 * Math.PI, cx, cy, r));
    drawRope(sheet, ink, points, colour);
    writeByHand(sheet, ink, random.pick(['standing end', 'working end']), cx + r * 0.9, cy + r * 0.75, {
      sizeMm: 5.4,
      font,
      colour,
    });
  }
  writeByHand(sheet, ink, 'over, under, over: draw up slowly', widthMm * 0.16, heightMm * 0.93, {
    sizeMm: 6,
    font,
    colour: INKS.black,
  });
}

/** Later pieces cover earlier ones, so crossings read as over and under. */
function drawRope(
  sheet: Sheet,
  ctx: SKRSContext2D,
  points: readonly (readonly [number, number])[],
  colour: string,
): void {
  const half = 4;
  for (let i = 0; i < points.length - 1; i += 1) {
    const [x0, y0] = points[i]!;
    const [x1, y1] = points[i + 1]!;
    const length = Math.hypot(x1 - x0, y1 - y0) || 1;
    const nx = (-(y1 - y0) / length) * half;
    const ny = ((x1 - x0) / length) * half;
    ctx.save();
    ctx.globalCompositeOperation = 'destination-out';
    ctx.lineWidth = half * 2;
    ctx.lineCap = 'butt';
    ctx.beginPath();
    ctx.moveTo(x0, y0);
    ctx.lineTo(x1, y1);
    ctx.stroke();
    ctx.restore();
    for (const s of [1, -1])
      strokeByHand(
        sheet,
        ctx,
        [
          [x0 + nx * s, y0 + ny * s],
          [x1 + nx * s, y1 + ny * s],
        ],
        { widthMm: 0.5, colour, wanderMm: 0.06 },
      );
    if (i % 2 === 0)
      strokeByHand(
        sheet,
        ctx,
        [
          [x0 + nx, y0 + ny],
          [x1 - nx * 0.6, y1 - ny * 0.6],
        ],
        { widthMm: 0.3, colour, wanderMm: 0.1 },
      );
  }
}
