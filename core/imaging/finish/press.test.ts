import { createRandom } from '../../../demo/random';
import { press, type Strokes } from './press';

const WIDTH = 203;
const HEIGHT = 151;

/** A plane of hills some 40 px across, from `least` to `most`, so that nothing on it is small enough to be pepper. */
function hills(seed: number, least: number, most: number): Uint8ClampedArray<ArrayBuffer> {
  const random = createRandom(seed);
  const waves = Array.from({ length: 4 }, () => ({
    u: 0.16 * random.between(-1, 1),
    v: 0.16 * random.between(-1, 1),
    at: random.between(0, 6.3),
  }));
  return Uint8ClampedArray.from({ length: WIDTH * HEIGHT }, (_, i) => {
    const height =
      waves.reduce((sum, { u, v, at }) => sum + Math.sin(u * (i % WIDTH) + v * Math.floor(i / WIDTH) + at), 0) /
      waves.length;
    return least + ((most - least) * (height + 1)) / 2;
  });
}
const strokesOf = (seed: number): Strokes => ({
  edge: 0.45,
  ink: { width: WIDTH, height: HEIGHT, depth: hills(seed, 0, 255) },
  floor: new Uint8Array(hills(seed + 1, 10, 60)),
  ridge: new Uint8Array(hills(seed + 2, 60, 255)),
  near: new Uint8Array(hills(seed + 3, 120, 255)),
});

/** The same by the book: one pixel at a time. */
function byTheBook({ ink: { depth }, floor, ridge, near }: Strokes, edgeShare: number): Uint8Array {
  const over = Float64Array.from(
    depth,
    (d, i) => d - Math.max(floor[i]!, Math.min(ridge[i]!, Math.floor(near[i]! * edgeShare))),
  );
  const sample = (x: number, y: number): number => over[Math.min(HEIGHT - 1, y) * WIDTH + Math.min(WIDTH - 1, x)]!;
  const out = new Uint8Array(4 * WIDTH * HEIGHT);
  for (let y = 0; y < 2 * HEIGHT; y++) {
    for (let x = 0; x < 2 * WIDTH; x++) {
      const u = Math.min(WIDTH - 1, Math.max(0, (x + 0.5) / 2 - 0.5));
      const v = Math.min(HEIGHT - 1, Math.max(0, (y + 0.5) / 2 - 0.5));
      const [left, top, s, t] = [Math.floor(u), Math.floor(v), u % 1, v % 1];
      const above = sample(left, top) * (1 - s) + sample(left + 1, top) * s;
      const below = sample(left, top + 1) * (1 - s) + sample(left + 1, top + 1) * s;
      out[y * 2 * WIDTH + x] = above * (1 - t) + below * t >= 0 ? 0 : 255;
    }
  }
  return out;
}

describe('press', () => {
  it.each([
    [11, 0, 0.45],
    [21, -1, 0.15],
    [31, 1, 0.75],
    [41, 0.5, 0.6],
  ])('cuts between the pixels as it says (planes %i, brightness %f)', (seed, brightness, edgeShare) => {
    const strokes = strokesOf(seed);
    const page = press(strokes, brightness);
    expect([page.width, page.height, page.channels]).toEqual([2 * WIDTH, 2 * HEIGHT, 1]);
    const expected = byTheBook(strokes, edgeShare);
    const inked = expected.reduce((sum, v) => sum + (v === 0 ? 1 : 0), 0);
    const different = expected.reduce((sum, v, i) => sum + (v === page.data[i] ? 0 : 1), 0);
    expect(inked).toBeGreaterThan(0.1 * expected.length);
    // the share is rounded to 1/256
    expect(different).toBeLessThan(0.004 * inked);
  });

  it('takes less ink the brighter it is set, and never any below the floor', () => {
    const strokes = strokesOf(51);
    const inkAt = (brightness: number): number =>
      press(strokes, brightness).data.reduce((sum, v) => sum + (v === 0 ? 1 : 0), 0);
    expect(inkAt(-0.8)).toBeGreaterThan(inkAt(0));
    expect(inkAt(0)).toBeGreaterThan(inkAt(0.8));
    const bare = press({ ...strokes, ink: { ...strokes.ink, depth: strokes.ink.depth.fill(9) } }, 0);
    expect(bare.data.every((v) => v === 255)).toBe(true);
  });
});
