import fc from 'fast-check';
import { createRandom } from '../../../demo/random';
import type { PixelImage } from '../raster/pixelImage';
import { adjustTones } from './adjustTones';
import { PLAIN_LIGHT, type LightSettings } from './finishSettings';

const random = createRandom(2);
const coloured: PixelImage = {
  width: 24,
  height: 20,
  channels: 3,
  data: Uint8ClampedArray.from({ length: 24 * 20 * 3 }, () => random.whole(0, 255)),
};
const greys: PixelImage = {
  width: 256,
  height: 3,
  channels: 1,
  data: Uint8ClampedArray.from({ length: 768 }, (_, i) => i % 256),
};
const set = (page: PixelImage, settings: Partial<LightSettings>, plain = page): PixelImage =>
  adjustTones(page, plain, { ...PLAIN_LIGHT, ...settings });
const greyOf = ({ data }: PixelImage, i: number): number =>
  0.299 * data[3 * i]! + 0.587 * data[3 * i + 1]! + 0.114 * data[3 * i + 2]!;

describe('adjustTones', () => {
  it('hands back the page where nothing is set', () => {
    expect(set(coloured, {})).toBe(coloured);
  });

  it('keeps black black, white white and all between in order, for any brightness and contrast', () => {
    const span = fc.double({ min: -1, max: 1, noNaN: true });
    fc.assert(
      fc.property(span, span, (brightness, contrast) => {
        const { data } = set(greys, { brightness, contrast });
        expect([data[0], data[255]]).toEqual([0, 255]);
        for (let i = 1; i < 256; i++) expect(data[i]!).toBeGreaterThanOrEqual(data[i - 1]!);
      }),
    );
  });

  it('goes back towards the photo by as much as strength is less', () => {
    const white: PixelImage = { ...coloured, data: new Uint8ClampedArray(coloured.data.length).fill(255) };
    expect(set(white, { strength: 0 }, coloured).data).toEqual(coloured.data);
    const half = set(white, { strength: 0.5 }, coloured).data;
    half.forEach((v, i) => expect(Math.abs(v - (255 + coloured.data[i]!) / 2)).toBeLessThanOrEqual(1));
  });

  it('goes back to the grey of a coloured photo where the finish is grey', () => {
    const white: PixelImage = { width: 24, height: 20, channels: 1, data: new Uint8ClampedArray(24 * 20).fill(255) };
    const { data } = set(white, { strength: 0 }, coloured);
    data.forEach((v, i) => expect(Math.abs(v - greyOf(coloured, i))).toBeLessThanOrEqual(1));
  });

  it('takes all colour away at its least, and keeps the lightness of what is not cut off', () => {
    const { data } = set(coloured, { colour: -1 });
    for (let i = 0; i < data.length; i += 3) {
      expect(
        Math.max(data[i]!, data[i + 1]!, data[i + 2]!) - Math.min(data[i]!, data[i + 1]!, data[i + 2]!),
      ).toBeLessThanOrEqual(1);
      expect(Math.abs(data[i]! - greyOf(coloured, i / 3))).toBeLessThanOrEqual(1.5);
    }
    const muted: PixelImage = { ...coloured, data: coloured.data.map((v) => 110 + v / 8) };
    const strong = set(muted, { colour: 1 });
    for (let i = 0; i < 24 * 20; i++) expect(Math.abs(greyOf(strong, i) - greyOf(muted, i))).toBeLessThanOrEqual(1.5);
  });

  it('sharpens an edge and leaves even paper alone, without touching what it was given', () => {
    const edge: PixelImage = {
      width: 40,
      height: 10,
      channels: 1,
      data: Uint8ClampedArray.from({ length: 400 }, (_, i) => (i % 40 < 20 ? 90 : 180)),
    };
    const before = edge.data.slice();
    const { data } = set(edge, { sharpness: 1 });
    expect(data[5 * 40 + 19]!).toBeLessThan(90);
    expect(data[5 * 40 + 20]!).toBeGreaterThan(180);
    expect(data[5 * 40 + 5]).toBe(90);
    expect(edge.data).toEqual(before);
  });
});
