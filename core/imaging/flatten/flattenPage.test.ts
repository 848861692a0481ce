import { wholePicture, type Quad } from '../geometry/quad';
import type { PixelImage } from '../raster/pixelImage';
import { flattenPage, limitLongSide, readShape } from './flattenPage';
import { chooseAspect, snapAspect } from '../geometry/standardSheets';

/** Red grows to the right, green downwards. */
const ramp = (width: number, height: number): PixelImage => {
  const data = new Uint8ClampedArray(width * height * 3);
  for (let i = 0; i < width * height; i++) {
    data[i * 3] = ((i % width) / width) * 255;
    data[i * 3 + 1] = (Math.floor(i / width) / height) * 255;
  }
  return { width, height, channels: 3, data };
};

const flat = (corners: Quad) => ({ corners, sheet: null });

describe('flattenPage', () => {
  it('gives the picture itself for the whole picture at its own size', () => {
    const photo = ramp(80, 60);
    expect(flattenPage(photo, flat(wholePicture(80, 60)), { width: 80, height: 60 })).toEqual(photo);
  });

  it('puts each corner of the outline into its corner, also when turned', () => {
    const photo = ramp(200, 200);
    const turned: Quad = [
      { x: 150, y: 50 },
      { x: 150, y: 150 },
      { x: 50, y: 150 },
      { x: 50, y: 50 },
    ];
    const page = flattenPage(photo, flat(turned), { width: 100, height: 100 });
    const at = (x: number, y: number): number[] =>
      Array.from(page.data.subarray((y * 100 + x) * 3, (y * 100 + x) * 3 + 2));
    expect(at(0, 0)[0]).toBeGreaterThan(at(0, 99)[0]!);
    expect(at(99, 0)[1]).toBeGreaterThan(at(0, 0)[1]!);
  });

  it.each([
    [3, 1],
    [4, 1],
    [3, 1.5],
    [4, 1.5],
  ] as const)('reads %i channels between pixels as they mix there, %f px apart', (channels, step) => {
    const [width, height] = [37, 29];
    const photo: PixelImage = {
      width,
      height,
      channels,
      data: Uint8ClampedArray.from({ length: width * height * channels }, (_, i) => (i * 7919) % 251),
    };
    const size = { width: Math.floor(20 / step), height: Math.floor(16 / step) };
    const corners: Quad = [
      { x: 3.3, y: 4.6 },
      { x: 3.3 + step * size.width, y: 4.6 },
      { x: 3.3 + step * size.width, y: 4.6 + step * size.height },
      { x: 3.3, y: 4.6 + step * size.height },
    ];
    const page = flattenPage(photo, flat(corners), size);
    const at = (x: number, y: number, c: number): number => photo.data[(y * width + x) * channels + c]!;
    const mixed = (x: number, y: number, c: number): number => {
      const [i, j] = [Math.floor(x - 0.5), Math.floor(y - 0.5)];
      const [f, g] = [x - 0.5 - i, y - 0.5 - j];
      return (
        (at(i, j, c) * (1 - f) + at(i + 1, j, c) * f) * (1 - g) +
        (at(i, j + 1, c) * (1 - f) + at(i + 1, j + 1, c) * f) * g
      );
    };
    // read to a 256th of a pixel; where pixels of the page are farther apart than those of the photo, it looks four times into each
    const looks = step > 1.2 ? [0.25, 0.75] : [0.5];
    for (let y = 0; y < size.height; y++) {
      for (let x = 0; x < size.width; x++) {
        for (let c = 0; c < 3; c++) {
          const seen = looks.flatMap((v) => looks.map((u) => mixed(3.3 + step * (x + u), 4.6 + step * (y + v), c)));
          expect(
            Math.abs(page.data[(y * size.width + x) * 3 + c]! - seen.reduce((a, b) => a + b) / seen.length),
          ).toBeLessThanOrEqual(0.75);
        }
      }
    }
  });

  it('does not alias when it shrinks: fine stripes become grey', () => {
    const stripes: PixelImage = {
      width: 600,
      height: 600,
      channels: 1,
      data: Uint8ClampedArray.from({ length: 360_000 }, (_, i) => ((i % 600) % 2) * 255),
    };
    const page = flattenPage(stripes, flat(wholePicture(600, 600)), { width: 170, height: 170 });
    const inner = page.data.filter((_, i) => i % 170 > 2 && i % 170 < 167);
    expect(Math.max(...inner) - Math.min(...inner)).toBeLessThan(80);
  });

  it('shows white where the outline leaves the photo, drops alpha, and leaves its input alone', () => {
    const photo: PixelImage = { width: 10, height: 10, channels: 4, data: new Uint8ClampedArray(400) };
    const before = photo.data.slice();
    const page = flattenPage(
      photo,
      flat([
        { x: -10, y: 0 },
        { x: 10, y: 0 },
        { x: 10, y: 10 },
        { x: -10, y: 10 },
      ]),
      { width: 20, height: 10 },
    );
    expect(page.channels).toBe(3);
    expect(page.data[0]).toBe(255);
    expect(page.data[19 * 3]).toBe(0);
    expect(photo.data).toEqual(before);
  });
});

describe('page sizes', () => {
  it('snap to a standard sheet within tolerance and not beyond', () => {
    expect(snapAspect(1 / 1.43)).toBeCloseTo(1 / Math.SQRT2, 9);
    expect(snapAspect(1.3)).toBeCloseTo(11 / 8.5, 9);
    expect(snapAspect(1)).toBe(1);
    expect(snapAspect(1.6)).toBeCloseTo(85.6 / 53.98, 9);
  });

  it('are what a person chose, lying the way the page was seen', () => {
    expect(chooseAspect(0.9, 'letter')).toBeCloseTo(8.5 / 11, 9);
    expect(chooseAspect(1.1, 'a')).toBeCloseTo(Math.SQRT2, 9);
    expect(chooseAspect(1.43, 'free')).toBe(1.43);
    const quad: Quad = [
      { x: 100, y: 100 },
      { x: 800, y: 120 },
      { x: 820, y: 1000 },
      { x: 90, y: 980 },
    ];
    const { width, height } = readShape(quad, { width: 1000, height: 1200 }, { paper: 'a' }).size;
    expect(height / width).toBeCloseTo(Math.SQRT2, 2);
  });

  it('follow the photo’s own detail and are never enlarged', () => {
    expect(readShape(wholePicture(3000, 4000), { width: 3000, height: 4000 }).size).toEqual({
      width: 3000,
      height: 4000,
    });
    expect(limitLongSide({ width: 300, height: 400 }, 1000)).toEqual({ width: 300, height: 400 });
    expect(limitLongSide({ width: 3000, height: 4000 }, 1000)).toEqual({ width: 750, height: 1000 });
  });
});
