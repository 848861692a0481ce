import fc from 'fast-check';
import { halveImage } from './halveImage';
import { createRandom } from '../../../demo/random';
import { connectedRegions } from './connectedRegions';
import { enlargePlane } from './enlargePlane';
import { guidedSmooth } from './guidedSmooth';
import { closePlane, extremeFilter, largestByteAround, smallestByteAround } from './morphology';
import { packRgb, packTurned } from './packRgb';
import { createPixelImage, pixelImageFrom, type PixelImage } from './pixelImage';
import { fitLongSide, resizeByArea } from './resizeByArea';

const noise = (width: number, height: number, channels: 1 | 3 | 4): PixelImage => ({
  width,
  height,
  channels,
  data: Uint8ClampedArray.from({ length: width * height * channels }, (_, i) => (i * 7919) % 251),
});
const mean = (image: PixelImage): number => image.data.reduce((a, b) => a + b, 0) / image.data.length;

describe('resizing', () => {
  it('keeps the mean and refuses to enlarge', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 40 }),
        fc.integer({ min: 1, max: 40 }),
        fc.constantFrom(1, 3, 4),
        (w, h, channels) => {
          const image = noise(40, 40, channels);
          const small = resizeByArea(image, w, h);
          expect(small.data.length).toBe(w * h * channels);
          expect(Math.abs(mean(small) - mean(image))).toBeLessThan(1.5);
        },
      ),
    );
    expect(() => resizeByArea(noise(4, 4, 1), 5, 4)).toThrow(RangeError);
  });

  it('turns fine stripes into their mean instead of a pattern', () => {
    const stripes: PixelImage = {
      width: 300,
      height: 4,
      channels: 1,
      data: Uint8ClampedArray.from({ length: 1200 }, (_, i) => (i % 2) * 255),
    };
    const small = resizeByArea(stripes, 100, 2);
    expect(Math.max(...small.data) - Math.min(...small.data)).toBeLessThan(90);
    expect(Math.max(...halveImage(stripes).data)).toBeLessThan(129);
  });

  it('halves to the means of two by two, the last of an odd size repeated', () =>
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 37 }),
        fc.integer({ min: 1, max: 9 }),
        fc.constantFrom(1 as const, 3 as const, 4 as const),
        (width, height, channels) => {
          const image = noise(width, height, channels);
          const half = halveImage(image);
          const at = (x: number, y: number, c: number): number =>
            image.data[(Math.min(height - 1, y) * width + Math.min(width - 1, x)) * channels + c]!;
          expect([half.width, half.height]).toEqual([Math.ceil(width / 2), Math.ceil(height / 2)]);
          for (let y = 0; y < half.height; y++) {
            for (let x = 0; x < half.width; x++) {
              for (let c = 0; c < channels; c++)
                expect(half.data[(y * half.width + x) * channels + c]).toBe(
                  (at(2 * x, 2 * y, c) +
                    at(2 * x + 1, 2 * y, c) +
                    at(2 * x, 2 * y + 1, c) +
                    at(2 * x + 1, 2 * y + 1, c) +
                    2) >>
                    2,
                );
            }
          }
        },
      ),
    ));

  it('makes of every pixel the mean of the area it covers', () =>
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 30 }),
        fc.integer({ min: 1, max: 20 }),
        fc.constantFrom(1 as const, 3 as const, 4 as const),
        (width, height, channels) => {
          const image = noise(31, 21, channels);
          const small = resizeByArea(image, width, height);
          const [stepX, stepY] = [31 / width, 21 / height];
          const overlap = (from: number, to: number, at: number): number =>
            Math.max(0, Math.min(to, at + 1) - Math.max(from, at));
          for (let y = 0; y < height; y++) {
            for (let x = 0; x < width; x++) {
              let sum = 0;
              for (let v = 0; v < 21; v++)
                for (let u = 0; u < 31; u++)
                  sum +=
                    image.data[(v * 31 + u) * channels]! *
                    overlap(x * stepX, (x + 1) * stepX, u) *
                    overlap(y * stepY, (y + 1) * stepY, v);
              expect(Math.abs(small.data[(y * width + x) * channels]! - sum / (stepX * stepY))).toBeLessThanOrEqual(
                0.51,
              );
            }
          }
        },
      ),
      { numRuns: 30 },
    ));

  it('fits the long side and leaves smaller pictures alone', () => {
    expect(fitLongSide(noise(400, 300, 3), 100)).toMatchObject({ width: 100, height: 75 });
    const small = noise(40, 30, 3);
    expect(fitLongSide(small, 100)).toBe(small);
  });

  it('drops the fourth channel, a little and a lot', () => {
    for (const pixels of [1, 6, 70_001]) {
      const rgba = Uint8ClampedArray.from({ length: 4 * pixels }, (_, i) => (i * 7919) % 251);
      const rgb = new Uint8ClampedArray(3 * pixels + 5);
      packRgb(rgba, rgb, 5);
      expect(rgb.subarray(5)).toEqual(rgba.filter((_, i) => i % 4 !== 3));
      packRgb(rgba, rgb, 5, 'bgra');
      expect(rgb.subarray(5)).toEqual(
        rgba.map((_, i) => rgba[i - (i % 4) + 2 - (i % 4)]!).filter((_, i) => i % 4 !== 3),
      );
    }
  });

  it.each([true, false])('lays stored rows as columns of the upright picture, clockwise: %p', (clockwise) => {
    // no whole squares of either side
    const [length, stored] = [2503, 67];
    const pixels = Uint8ClampedArray.from({ length: 4 * length * stored }, (_, i) => (i * 7919) % 251);
    const into = createPixelImage(stored, length, 3);
    for (const [first, end] of [
      [0, 40],
      [40, stored],
    ] as const) {
      const rows = pixels.subarray(4 * first * length, 4 * end * length);
      packTurned({ pixels: rows, order: 'bgra', length, first, clockwise }, into);
    }
    const expected = into.data.map((_, i) => {
      const [x, y] = [Math.floor(i / 3) % stored, Math.floor(i / 3 / stored)];
      const row = clockwise ? stored - 1 - x : x;
      const at = clockwise ? y : length - 1 - y;
      return pixels[4 * (row * length + at) + 2 - (i % 3)]!;
    });
    expect(into.data).toEqual(expected);
  });

  it('checks what comes from outside', () => {
    expect(() => pixelImageFrom(2, 2, 3, new Uint8ClampedArray(11))).toThrow('needs 12 samples, got 11');
    expect(() => pixelImageFrom(0, 2, 3, new Uint8ClampedArray(0))).toThrow(RangeError);
  });
});

describe('morphology', () => {
  it('agrees with looking at every neighbour', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 0, max: 255 }), { minLength: 35, maxLength: 35 }),
        fc.integer({ min: 1, max: 4 }),
        (values, radius) => {
          const plane = Float32Array.from(values);
          const got = extremeFilter(plane, 7, 5, { extreme: 'largest', radius });
          for (let y = 0; y < 5; y++) {
            for (let x = 0; x < 7; x++) {
              let most = -Infinity;
              for (let yy = Math.max(0, y - radius); yy <= Math.min(4, y + radius); yy++) {
                for (let xx = Math.max(0, x - radius); xx <= Math.min(6, x + radius); xx++)
                  most = Math.max(most, plane[yy * 7 + xx]!);
              }
              expect(got[y * 7 + x]).toBe(most);
            }
          }
        },
      ),
    );
  });

  it('does the same with bytes', () =>
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 40 }),
        fc.integer({ min: 1, max: 40 }),
        fc.integer({ min: 1, max: 9 }),
        fc.integer({ min: 1, max: 1000 }),
        (width, height, radius, seed) => {
          const random = createRandom(seed);
          const bytes = Uint8ClampedArray.from({ length: width * height }, () => 255 * random.next());
          const plane = Float32Array.from(bytes);
          expect([...largestByteAround(bytes, width, height, radius)]).toEqual([
            ...extremeFilter(plane, width, height, { extreme: 'largest', radius }),
          ]);
          expect([...smallestByteAround(bytes, width, height, radius)]).toEqual([
            ...extremeFilter(plane, width, height, { extreme: 'smallest', radius }),
          ]);
        },
      ),
    ));

  it('closing takes away a thin dark line and keeps the edge of a wide dark field where it is', () => {
    const width = 60;
    const plane = new Float32Array(width * 20).fill(200);
    for (let y = 0; y < 20; y++) {
      plane[y * width + 10] = 20;
      for (let x = 30; x < 60; x++) plane[y * width + x] = 90;
    }
    const closed = closePlane(plane, width, 20, 3);
    expect(closed[5 * width + 10]).toBe(200);
    expect(closed[5 * width + 29]).toBe(200);
    expect(closed[5 * width + 30]).toBe(90);
  });

  it('along rows or columns alone looks no further, and the smallest mirrors the largest', () => {
    const random = createRandom(5);
    const plane = Float32Array.from({ length: 23 * 31 }, () => Math.floor(255 * random.next()));
    const largest = { extreme: 'largest', radius: 3 } as const;
    const both = extremeFilter(plane, 23, 31, { ...largest, along: 'rows' }, { ...largest, along: 'columns' });
    expect(both).toEqual(extremeFilter(plane, 23, 31, largest));
    const rows = extremeFilter(plane, 23, 31, { extreme: 'smallest', radius: 2, along: 'rows' });
    for (const [x, y] of [
      [0, 0],
      [11, 15],
      [22, 30],
    ] as const) {
      const from = Math.max(0, x - 2);
      expect(rows[y * 23 + x]).toBe(Math.min(...plane.subarray(y * 23 + from, y * 23 + Math.min(23, x + 3))));
    }
  });
});

describe('enlarging', () => {
  it('keeps a slope a slope and the ends where they are', () => {
    const slope = Float32Array.from({ length: 6 * 4 }, (_, i) => 10 * (i % 6));
    const large = enlargePlane(slope, { width: 6, height: 4 }, { width: 24, height: 9 });
    expect([large[0], large[23]]).toEqual([0, 50]);
    for (let x = 3; x < 20; x++) expect(large[4 * 24 + x + 1]! - large[4 * 24 + x]!).toBeCloseTo(2.5, 4);
  });
});

describe('guided smoothing', () => {
  it('is the guided filter of a plane with itself', () => {
    const random = createRandom(3);
    const [width, height, radius, contrast] = [23, 17, 2, 0.05];
    const plane = Float32Array.from({ length: width * height }, () => 40 + 200 * random.next());
    const around = (values: readonly number[], x: number, y: number): number => {
      let sum = 0;
      for (let v = y - radius; v <= y + radius; v++)
        for (let u = x - radius; u <= x + radius; u++)
          sum += values[Math.min(height - 1, Math.max(0, v)) * width + Math.min(width - 1, Math.max(0, u))]!;
      return sum / (2 * radius + 1) ** 2;
    };
    const means = (values: readonly number[]): number[] =>
      values.map((_, i) => around(values, i % width, Math.floor(i / width)));
    const values = [...plane];
    const mean = means(values);
    const slope = means(values.map((v) => v * v)).map(
      (square, i) => (square - mean[i]! ** 2) / (square - mean[i]! ** 2 + (contrast * mean[i]!) ** 2),
    );
    const slopes = means(slope);
    const offsets = means(mean.map((m, i) => m * (1 - slope[i]!)));
    guidedSmooth(plane, width, height, radius, contrast).forEach((v, i) =>
      expect(Math.abs(v - (slopes[i]! * values[i]! + offsets[i]!))).toBeLessThan(0.05),
    );
  });

  it('takes noise out of an even field and leaves a step where it is', () => {
    const random = createRandom(8);
    const plane = Float32Array.from({ length: 60 * 40 }, (_, i) => (i % 60 < 30 ? 200 : 120) + 2 * random.gauss());
    const smooth = guidedSmooth(plane, 60, 40, 3, 0.03);
    const spread = (values: Float32Array): number => {
      const part = Array.from({ length: 400 }, (_, k) => values[(10 + Math.floor(k / 20)) * 60 + 5 + (k % 20)]!);
      const mean = part.reduce((a, b) => a + b) / part.length;
      return Math.sqrt(part.reduce((sum, v) => sum + (v - mean) ** 2, 0) / part.length);
    };
    expect(spread(smooth)).toBeLessThan(0.5 * spread(plane));
    for (let y = 5; y < 35; y++) expect(smooth[y * 60 + 28]! - smooth[y * 60 + 31]!).toBeGreaterThan(65);
  });
});

describe('connected regions', () => {
  it('are told apart where they touch at corners only, each with its box', () => {
    const picture = ['##..#', '##.#.', '...#.', '#....'].join('');
    const regions = connectedRegions(
      Uint8Array.from(picture, (c) => (c === '#' ? 1 : 0)),
      5,
      4,
    );
    expect(regions.map(({ pixels, left, top, right, bottom }) => [pixels.length, left, top, right, bottom])).toEqual([
      [4, 0, 0, 1, 1],
      [1, 4, 0, 4, 0],
      [2, 3, 1, 3, 2],
      [1, 0, 3, 0, 3],
    ]);
  });
});
