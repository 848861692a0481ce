import fc from 'fast-check';
import { createRandom } from '../../../demo/random';
import { createPixelImage, type PixelImage } from '../raster/pixelImage';
import { encodeSrgb } from '../raster/transferCurve';
import type { PaperField } from './paperField';
import { divideByBackground } from './divideByBackground';
import { forEachGainRow } from './gainRows';
import { normaliseLightness, PAPER_LEVEL } from './normaliseLightness';
import { scaleByLightness } from './scaleByLightness';

/** A page and a field of another size, both of noise. */
function drawn(seed: number, channels: 1 | 3 | 4): { page: PixelImage; field: PaperField } {
  const random = createRandom(seed);
  const page = createPixelImage(5 + Math.floor(40 * random.next()), 5 + Math.floor(40 * random.next()), channels);
  page.data.forEach((_, i) => (page.data[i] = 255 * random.next()));
  const [width, height] = [3 + Math.floor(12 * random.next()), 3 + Math.floor(12 * random.next())];
  const plane = (least: number, most: number): Float32Array =>
    Float32Array.from({ length: width * height }, () => least + (most - least) * random.next());
  return {
    page,
    field: {
      width,
      height,
      planes: Array.from({ length: channels === 1 ? 1 : 3 }, () => plane(60, 250)),
      noise: plane(0, 0.2),
      nonPaper: new Uint8Array(width * height),
    },
  };
}

/** The inverse of a plane read bilinearly at a pixel of the page. */
function gainAt(
  inverse: readonly number[],
  { width, height }: PaperField,
  page: PixelImage,
  x: number,
  y: number,
): number {
  const u = Math.min(width - 1, Math.max(0, ((x + 0.5) / page.width) * width - 0.5));
  const v = Math.min(height - 1, Math.max(0, ((y + 0.5) / page.height) * height - 0.5));
  const [i, j] = [Math.floor(u), Math.floor(v)];
  const at = (dx: number, dy: number): number =>
    inverse[Math.min(height - 1, j + dy) * width + Math.min(width - 1, i + dx)]!;
  return (
    (at(0, 0) * (1 - u + i) + at(1, 0) * (u - i)) * (1 - v + j) +
    (at(0, 1) * (1 - u + i) + at(1, 1) * (u - i)) * (v - j)
  );
}

describe('the page beside its paper', () => {
  it.each([1, 3, 4] as const)('is divided by what is white there, %i channels', (channels) =>
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 5000 }), (seed) => {
        const { page, field } = drawn(seed, channels);
        const { lit } = divideByBackground(page, field, { below: 1.5, least: 0.8, most: 0.98 }, 2);
        const colours = field.planes.length;
        const inverse = field.planes.map((plane) =>
          Array.from(plane, (value, i) => 255 / (value * Math.max(0.8, Math.min(0.98, 1 - 1.5 * field.noise[i]!)))),
        );
        // where the page is much taller than the field, two rows share their gains
        const shared = page.height > 1.6 * field.height ? 2 : 1;
        for (let y = 0; y < page.height; y += shared) {
          for (let x = 0; x < page.width; x++) {
            for (let c = 0; c < colours; c++) {
              const expected = Math.min(
                255,
                page.data[(y * page.width + x) * channels + c]! * gainAt(inverse[c]!, field, page, x, y),
              );
              expect(Math.abs(lit.data[(y * page.width + x) * colours + c]! - expected)).toBeLessThanOrEqual(0.51);
            }
          }
        }
      }),
      { numRuns: 25 },
    ),
  );

  it.each([1, 3, 4] as const)('has a lightness that is a share of the paper’s, %i channels', (channels) => {
    const { page, field } = drawn(7, channels);
    const share = normaliseLightness(page, field);
    const weights = channels === 1 ? [1] : [0.299, 0.587, 0.114];
    const inverse = field.planes.map((plane) => Array.from(plane, (value) => PAPER_LEVEL / value));
    for (let x = 0; x < page.width; x++) {
      const expected = weights.reduce(
        (sum, weight, c) => sum + weight * page.data[x * channels + c]! * gainAt(inverse[c]!, field, page, x, 0),
        0,
      );
      expect(Math.abs(share[x]! - Math.min(255, expected))).toBeLessThanOrEqual(0.51);
    }
  });

  it('misses of the light what the ink takes, under a warm lamp too and wherever a lens mixes ink with paper', () => {
    const lamp = [0.85, 0.65, 0.45];
    const ink = [0.46, 0.02, 0.03];
    const coded = (light: number): number => 255 * encodeSrgb(light);
    for (const covered of [0.4, 0.7, 1]) {
      const page = createPixelImage(8, 8, 3);
      page.data.forEach(
        (_, i) => (page.data[i] = Math.round(coded(lamp[i % 3]! * (1 - covered + covered * ink[i % 3]!)))),
      );
      const field: PaperField = {
        width: 2,
        height: 2,
        planes: lamp.map((light) => new Float32Array(4).fill(coded(light))),
        noise: new Float32Array(4),
        nonPaper: new Uint8Array(4),
      };
      const { absorbed: missing } = divideByBackground(page, field, { below: 0, least: 1, most: 1 }, 2);
      const [red, green, blue] = missing!.sums.map((plane) => plane[0]!) as [number, number, number];
      expect(Math.abs(green / red - (1 - ink[1]!) / (1 - ink[0]!))).toBeLessThan(0.15);
      expect(Math.abs(blue / green - (1 - ink[2]!) / (1 - ink[1]!))).toBeLessThan(0.05);
    }
  });

  it('hands out the same gains row by row', () => {
    const { page, field } = drawn(11, 3);
    const inverse = field.planes.map((plane) => Array.from(plane, (value) => 1 / value));
    const seen: number[] = [];
    forEachGainRow(page, field, 1, (y, gains) => {
      seen.push(y);
      if (y === 0)
        for (let x = 0; x < page.width; x++)
          for (let c = 0; c < 3; c++) expect(gains[3 * x + c]).toBeCloseTo(gainAt(inverse[c]!, field, page, x, 0), 5);
    });
    expect(seen).toEqual(Array.from({ length: page.height }, (_, y) => y));
  });

  it('is scaled by what a table says for its lightness, which may lie above the scale', () => {
    const table = Float32Array.from({ length: 257 }, (_, level) => level / 100);
    const [scaled] = scaleByLightness([Float32Array.of(10, 10, 10)], Float32Array.of(0.9, 100.6, 300), [table]);
    expect([...scaled!].map((v) => Math.round(100 * v))).toEqual([0, 1000, 2560]);
  });
});
