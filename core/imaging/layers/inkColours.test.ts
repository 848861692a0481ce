import fc from 'fast-check';
import { createRandom } from '../../../demo/random';
import type { PixelImage } from '../raster/pixelImage';
import { findInks, nearestInk, strokeColours, type Rgb } from './inkColours';

const BLUE: Rgb = [36, 52, 150];
const RED: Rgb = [176, 34, 44];
const BLACK: Rgb = [30, 30, 34];

/** Colours of pixels, as many of each ink as given, scattered as blur scatters them. */
function scattered(inks: readonly (readonly [Rgb, number])[], spread = 6): Uint8Array {
  const random = createRandom(6);
  const out = inks.flatMap(([ink, count]) =>
    Array.from({ length: count }, () => ink.map((v) => Math.min(255, Math.max(0, v + spread * random.gauss())))),
  );
  return Uint8Array.from(out.flat());
}
const near = (found: readonly Rgb[], ink: Rgb): boolean =>
  found.some((f) => Math.hypot(f[0] - ink[0], f[1] - ink[1], f[2] - ink[2]) < 12);

describe('findInks', () => {
  it('finds each ink of a page, even one of a few crosses', () => {
    const found = findInks(
      scattered([
        [BLUE, 20_000],
        [BLACK, 5000],
        [RED, 60],
      ]),
    );
    expect(found).toHaveLength(3);
    for (const ink of [BLUE, BLACK, RED]) expect(near(found, ink)).toBe(true);
  });

  it('takes one ink for one, however it scatters a little', () => {
    expect(findInks(scattered([[BLUE, 8000]], 5))).toHaveLength(1);
  });

  it('finds six at most, and none where nothing is written', () => {
    const many = Array.from({ length: 11 }, (_, k): readonly [Rgb, number] => [
      [25 * k, 255 - 23 * k, (90 * k) % 256],
      900,
    ]);
    expect(findInks(scattered(many)).length).toBeLessThanOrEqual(6);
    expect(findInks(new Uint8Array(0))).toEqual([]);
  });

  it('does not hang on the order of pixels', () => {
    const colours = scattered([
      [BLUE, 3000],
      [RED, 900],
    ]);
    const reversed = new Uint8Array(colours.length);
    for (let i = 0; i < colours.length; i += 3) reversed.set(colours.subarray(i, i + 3), colours.length - 3 - i);
    const sorted = (inks: readonly Rgb[]): Rgb[] => [...inks].sort((a, b) => a[0] - b[0]);
    sorted(findInks(reversed)).forEach((ink, i) =>
      ink.forEach((v, c) => expect(v).toBeCloseTo(sorted(findInks(colours))[i]![c]!, 1)),
    );
  });
});

describe('nearestInk', () => {
  it('names the ink at the least distance', () => {
    const level = fc.integer({ min: 0, max: 255 });
    const colour = fc.tuple(level, level, level);
    fc.assert(
      fc.property(colour, fc.array(colour, { minLength: 1, maxLength: 6 }), ([r, g, b], inks) => {
        const away = inks.map((ink) => (r - ink[0]) ** 2 + (g - ink[1]) ** 2 + (b - ink[2]) ** 2);
        expect(away[nearestInk(r, g, b, inks)]).toBe(Math.min(...away));
      }),
    );
  });
});

describe('strokeColours', () => {
  it('gives a stroke’s pale rim the colour of its middle, up to the border of the page', () => {
    const width = 9;
    const height = 5;
    const page: PixelImage = { width, height, channels: 3, data: new Uint8ClampedArray(width * height * 3).fill(255) };
    const depth = new Uint8ClampedArray(width * height);
    for (let y = 0; y < height; y++) {
      page.data.set(BLUE, (y * width + 1) * 3);
      page.data.set([150, 155, 210], y * width * 3);
      page.data.set([150, 155, 210], (y * width + 2) * 3);
      depth[y * width + 1] = 200;
      depth[y * width] = depth[y * width + 2] = 90;
    }
    const ink = Uint32Array.from([0, 2, 2 * width + 1, 4 * width + 2]);
    const full = depth.slice().fill(200);
    const colours = strokeColours(page, { depth, full }, ink);
    for (let k = 0; k < ink.length; k++) expect([...colours.subarray(3 * k, 3 * k + 3)]).toEqual([...BLUE]);
  });

  it('reads a grey page as grey', () => {
    const page: PixelImage = { width: 3, height: 1, channels: 1, data: Uint8ClampedArray.from([255, 40, 255]) };
    const depth = Uint8ClampedArray.from([0, 200, 0]);
    const full = Uint8ClampedArray.from([200, 200, 200]);
    expect([...strokeColours(page, { depth, full }, Uint32Array.from([1]))]).toEqual([40, 40, 40]);
  });
});
