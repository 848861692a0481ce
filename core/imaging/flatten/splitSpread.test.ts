import type { Quad } from '../geometry/quad';
import type { PixelImage } from '../raster/pixelImage';
import { splitSpread } from './splitSpread';

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

describe('splitting a spread', () => {
  it.each([0.5, 0.46, 0.55])('finds the fold at %f of its width', (share) => {
    const { image, quad } = spread(share, 0.3);
    const { left, right, confidence } = splitSpread(image, quad);
    for (const p of [left[1], left[2], right[0], right[3]]) expect(Math.abs(p.x - (100 + 600 * share))).toBeLessThan(5);
    expect(left[0]).toEqual(quad[0]);
    expect(right[2]).toEqual(quad[2]);
    expect(confidence).toBeGreaterThan(0.95);
  });

  it('takes the middle where no fold shows, and is less sure', () => {
    const { image, quad } = spread(0.5, 0);
    const { left, confidence } = splitSpread(image, quad);
    expect(left[1].x).toBeCloseTo(400, 0);
    expect(confidence).toBeLessThan(0.7);
  });
});
