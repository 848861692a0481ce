import type { Point } from '../geometry/point';
import { polygonArea, wholePicture, type Quad } from '../geometry/quad';
import type { PixelImage } from '../raster/pixelImage';
import { ALL_STRAIGHT, mostBent, SIDE_DETAIL, STRAIGHT } from '../geometry/bentOutline';
import { cutAtFold, squaredToFold } from './cutAtFold';
import { findFold } from './findFold';

/** An open notebook 600 × 400 on a desk, its fold a soft shadow at this share of its width. */
function spread(foldShare: number, depth: number): { image: PixelImage; quad: Quad } {
  const width = 800;
  const height = 600;
  const data = new Uint8ClampedArray(width * height * 3).fill(70);
  for (let y = 100; y < 500; y++) {
    for (let x = 100; x < 700; x++) {
      const off = Math.abs(x - (100 + 600 * foldShare));
      data.fill(235 * (1 - depth * Math.exp(-((off / 9) ** 2))), (y * width + x) * 3, (y * width + x) * 3 + 3);
    }
  }
  return {
    image: { width, height, channels: 3, data },
    quad: [
      { x: 100, y: 100 },
      { x: 700, y: 100 },
      { x: 700, y: 500 },
      { x: 100, y: 500 },
    ],
  };
}

describe('the fold of a spread', () => {
  it.each([0.5, 0.46, 0.55])('is found at %f of its width', (share) => {
    const { image, quad } = spread(share, 0.3);
    const outline = { quad, bends: ALL_STRAIGHT };
    const fold = findFold(image, outline);
    const [left, right] = cutAtFold(outline, fold);
    for (const p of [left.quad[1], left.quad[2], right.quad[0], right.quad[3]])
      expect(Math.abs(p.x - (100 + 600 * share))).toBeLessThan(2);
    expect(left.quad[0]).toEqual(quad[0]);
    expect(right.quad[2]).toEqual(quad[2]);
    expect([left.foldSide, right.foldSide]).toEqual([1, 3]);
    expect(fold.confidence).toBeGreaterThan(0.95);
  });

  it('is found where one page is lit otherwise than the other, leaning, across a spread that lies sideways and fills the photo', () => {
    const [width, height] = [600, 900];
    const data = new Uint8ClampedArray(width * height * 3);
    const foldAt = (x: number): number => 430 + 0.1 * (x - 300);
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++)
        data.fill(y < foldAt(x) ? 200 : 235, (y * width + x) * 3, (y * width + x) * 3 + 3);
    const outline = { quad: wholePicture(width, height), bends: ALL_STRAIGHT };
    const fold = findFold({ width, height, channels: 3, data }, outline);
    expect(fold.upright).toBe(false);
    const [upper, lower] = cutAtFold(outline, fold);
    for (const p of [upper.quad[2], upper.quad[3], lower.quad[0], lower.quad[1]])
      expect(Math.abs(p.y - foldAt(p.x))).toBeLessThan(3);
    // a page squared to it is as large, and has a right angle at either end of the fold
    const [a, b, c] = squaredToFold(upper).map((_, k, quad) => quad[(2 + k) % 4]!) as [Point, Point, Point];
    expect((b.x - a.x) * (c.x - b.x) + (b.y - a.y) * (c.y - b.y)).toBeCloseTo(0);
    expect(polygonArea(squaredToFold(upper))).toBeCloseTo(polygonArea(upper.quad));
  });

  it('is no rule of a table beside it', () => {
    const { image, quad } = spread(0.5, 0.2);
    for (let y = 120; y < 480; y++) image.data.fill(40, (y * 800 + 372) * 3, (y * 800 + 373) * 3);
    const { at } = findFold(image, { quad, bends: ALL_STRAIGHT });
    expect(Math.abs(at[0] - 0.5)).toBeLessThan(0.01);
  });

  it('is taken to be the middle where none shows, and less sure', () => {
    const { image, quad } = spread(0.5, 0);
    const { at, confidence } = findFold(image, { quad, bends: ALL_STRAIGHT });
    expect(at).toEqual([0.5, 0.5]);
    expect(confidence).toBeLessThan(0.7);
  });
});

describe('a spread cut at its fold', () => {
  it('keeps the course of its sides, each half from its own corners', () => {
    const quad = wholePicture(600, 400);
    const roof = (t: number): number => 0.04 * (t < 0.5 ? t : 1 - t);
    const bend = Array.from({ length: SIDE_DETAIL }, (_, k) => roof((k + 1) / (SIDE_DETAIL + 1)));
    const [left, right] = cutAtFold(
      { quad, bends: [bend, STRAIGHT, STRAIGHT, STRAIGHT] },
      { upright: true, at: [0.5, 0.5], confidence: 1 },
    );
    // the roof's top, 2 % of 600 px outwards, is where both halves begin; either slope is straight
    for (const p of [left.quad[1], right.quad[0]]) {
      expect(p.x).toBeCloseTo(300);
      expect(p.y).toBeCloseTo(-12);
    }
    for (const { bends } of [left, right]) expect(mostBent(bends)).toBeLessThan(0.002);
  });
});
