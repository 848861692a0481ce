import type { PixelImage } from '../raster/pixelImage';
import { estimateIlluminationField } from './illuminationField';

const page = (
  width: number,
  height: number,
  colour: (x: number, y: number) => readonly [number, number, number],
): PixelImage => {
  const data = new Uint8ClampedArray(width * height * 3);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) data.set(colour(x / width, y / height), (y * width + x) * 3);
  return { width, height, channels: 3, data };
};
const green = (image: PixelImage, u: number, v: number): number => {
  const { width, height, planes } = estimateIlluminationField(image);
  return planes[1]![Math.floor(v * height) * width + Math.floor(u * width)]!;
};

describe('the illumination field', () => {
  it('is the paper’s own brightness between and under the writing', () => {
    const written = page(480, 680, (u, v) =>
      Math.floor(v * 60) % 3 === 0 && Math.floor(u * 100) % 2 === 0
        ? [30, 30, 60]
        : [210 - 60 * u, 205 - 60 * u, 190 - 60 * u],
    );
    for (const u of [0.2, 0.5, 0.8]) expect(Math.abs(green(written, u, 0.5) - (205 - 60 * u))).toBeLessThan(6);
  });

  it('does not take a dark picture for shadow: it is filled in from the paper around it', () => {
    const pictured = page(480, 680, (u, v) =>
      u > 0.3 && u < 0.7 && v > 0.3 && v < 0.6 ? [40, 45, 50] : [220, 218, 210],
    );
    expect(green(pictured, 0.5, 0.45)).toBeGreaterThan(200);
  });

  it('does not take pale writing on a dark box for paper in shadow', () => {
    // letters so small that they have mixed with the box
    const letter = (u: number, v: number): boolean =>
      u < 0.5 && Math.floor(u * 160) % 2 === 0 && (Math.abs(v - 0.14) < 0.008 || Math.abs(v - 0.17) < 0.008);
    const bannered = page(480, 680, (u, v) =>
      u > 0.1 && u < 0.9 && v > 0.12 && v < 0.19 ? (letter(u, v) ? [120, 125, 132] : [30, 45, 60]) : [220, 218, 210],
    );
    for (const [u, v] of [
      [0.3, 0.14],
      [0.3, 0.155],
      [0.3, 0.185],
      [0.3, 0.11],
      [0.7, 0.15],
    ] as const)
      expect(green(bannered, u, v)).toBeGreaterThan(205);
  });

  it('keeps a shadow’s edge where it is', () => {
    const shaded = page(480, 680, (u) => (u < 0.5 ? [220, 218, 210] : [140, 139, 134]));
    expect(green(shaded, 0.47, 0.5)).toBeGreaterThan(205);
    expect(green(shaded, 0.53, 0.5)).toBeLessThan(150);
  });

  it('is the same for the preview and for the final page', () => {
    const paint = (_u: number, v: number): readonly [number, number, number] =>
      Math.floor(v * 40) % 4 === 0 ? [40, 40, 70] : [230 - 80 * v, 225 - 80 * v, 205 - 80 * v];
    const small = page(480, 680, paint);
    const large = page(960, 1360, paint);
    for (const v of [0.1, 0.4, 0.9]) expect(Math.abs(green(small, 0.5, v) - green(large, 0.5, v))).toBeLessThan(4);
  });
});
