import { itInWorkspace } from '../kernels/itInWorkspace';
import type { FloatSlot } from '../kernels/workspace';
import { createPixelImage, type PixelImage } from '../raster/pixelImage';
import { boxBlur } from '../raster/boxBlur';
import {
  brightenPictureInto,
  CHANNELS,
  colourless,
  halvePicture,
  smoothPicture,
  toColourPicture,
  toSmallColourPicture,
  type ColourPicture,
} from './colourPicture';
import { gradientField } from './edgePoints';

const { it, ws } = itInWorkspace();

const filled = (width: number, height: number, [r, g, b]: readonly [number, number, number]): PixelImage => {
  const image = createPixelImage(width, height, 3);
  for (let i = 0; i < width * height; i++) image.data.set([r, g, b], i * 3);
  return image;
};

const valuesOf = ({ samples }: ColourPicture): Float32Array => samples.copy();

const channel = (picture: ColourPicture, k: 0 | 1 | 2): number[] =>
  Array.from(valuesOf(picture)).filter((_, i) => i % CHANNELS === k);

describe('a colour picture', () => {
  it('is lightness and two opponent colours, none for grey', () => {
    const [l, ...colours] = valuesOf(toColourPicture(filled(4, 4, [120, 120, 120]), ws()));
    expect(l).toBeCloseTo(120, 3);
    expect(colours.slice(0, 2)).toEqual([0, 0]);
    expect(
      valuesOf(toColourPicture({ width: 2, height: 1, channels: 1, data: Uint8ClampedArray.of(7, 250) }, ws()))[
        CHANNELS
      ],
    ).toBeCloseTo(250, 3);
    expect(channel(toColourPicture(filled(4, 4, [200, 40, 40]), ws()), 1)[5]).toBeCloseTo(112, 3);
    expect(channel(toColourPicture(filled(4, 4, [40, 40, 200]), ws()), 2)[5]).toBeCloseTo(-112, 3);
  });

  it('comes out the same made small at once or halved', () => {
    const image = filled(64, 32, [10, 20, 30]);
    for (let x = 32; x < 64; x++) for (let y = 0; y < 32; y++) image.data.set([200, 180, 160], (y * 64 + x) * 3);
    const small = toSmallColourPicture(image, 32, ws());
    const halved = halvePicture(toColourPicture(image, ws()), ws());
    expect([small.width, small.height]).toEqual([halved.width, halved.height]);
    for (const k of [0, 1, 2] as const) {
      const expected = channel(halved, k);
      channel(small, k).forEach((v, i) => expect(v).toBeCloseTo(expected[i]!, 2));
    }
  });

  it('has no moiré of stripes finer than it can show, however large the photo', () => {
    for (const width of [700, 800, 980, 1600]) {
      // black and white columns in turn: all that is left of them is their mean
      const image = createPixelImage(width, 12, 1);
      for (let i = 0; i < image.data.length; i++) image.data[i] = i % 2 === 0 ? 0 : 255;
      const lightness = channel(toSmallColourPicture(image, 200, ws()), 0);
      for (const level of lightness) expect(Math.abs(level - 127.5)).toBeLessThan(1);
      // and of those two and three px wide a little more
      for (const breadth of [2, 3]) {
        for (let i = 0; i < image.data.length; i++)
          image.data[i] = Math.floor((i % width) / breadth) % 2 === 0 ? 0 : 255;
        if (width / 200 <= 2 * breadth) continue;
        const coarse = channel(toSmallColourPicture(image, 200, ws()), 0);
        for (const level of coarse) expect(Math.abs(level - 127.5)).toBeLessThan(80);
      }
    }
  });

  it('is the mean of each pixel with its neighbours when smoothed, on the border too', () => {
    const lightness = Float32Array.from({ length: 7 * 5 }, (_, i) => (i * 37) % 101);
    const expected = boxBlur(lightness, 7, 5, { radius: 1 });
    channel(
      smoothPicture(
        colourless(7, 5, (at) => lightness[at]!, ws()),
        ws(),
      ),
      0,
    ).forEach((v, i) => expect(v).toBeCloseTo(expected[i]!, 3));
  });

  it('that is dim is brought up with its colours, a light one left as it is', () => {
    const dim = valuesOf(toColourPicture(filled(40, 40, [34, 34, 17]), ws())).slice(0, 3);
    const bright = valuesOf(brightenPictureInto(toColourPicture(filled(40, 40, [34, 34, 17]), ws())));
    expect(bright[0]).toBeCloseTo(170, 0);
    expect(bright[2]! / dim[2]!).toBeCloseTo(bright[0]! / dim[0]!, 5);
    // never more than sixfold: noise would pass for edges
    expect(valuesOf(brightenPictureInto(toColourPicture(filled(40, 40, [5, 5, 5]), ws())))[0]).toBeCloseTo(30, 0);
    expect(valuesOf(brightenPictureInto(toColourPicture(filled(40, 40, [220, 220, 220]), ws())))[0]).toBeCloseTo(
      220,
      3,
    );
  });

  it('has its gradient from the channel that changes most, none on its border', () => {
    const image = filled(6, 4, [120, 120, 120]);
    // the same lightness, another colour, from the third column on
    for (let y = 0; y < 4; y++) for (let x = 3; x < 6; x++) image.data.set([220, 69, 119], (y * 6 + x) * 3);
    const { magnitude, gx, gy } = gradientField(toColourPicture(image, ws()), ws());
    const plane = (slot: FloatSlot): number[] => Array.from(slot.copy());
    expect(plane(gx)[6 + 2]).toBeCloseTo((0.7 * (220 - 69)) / 2, 3);
    expect(plane(magnitude)[6 + 2]).toBeCloseTo(Math.abs(plane(gx)[6 + 2]!), 3);
    expect(plane(gy).every((v) => v === 0)).toBe(true);
    expect(plane(magnitude).every((v, i) => v === 0 || (i > 6 && i < 18 && i % 6 > 1 && i % 6 < 4))).toBe(true);
  });
});
