import { createPixelImage } from '../raster/pixelImage';
import { brightenPlanes, halvePlanes, toColourPlanes, toSmallColourPlanes } from './colourPlanes';

const filled = (width: number, height: number, [r, g, b]: readonly [number, number, number]) => {
  const image = createPixelImage(width, height, 3);
  for (let i = 0; i < width * height; i++) image.data.set([r, g, b], i * 3);
  return image;
};

describe('colour planes', () => {
  it('are lightness and two opponent colours, none for grey', () => {
    const grey = toColourPlanes(filled(4, 4, [120, 120, 120]));
    expect([grey.l[0], grey.a[0], grey.b[0]]).toEqual([expect.closeTo(120, 3), 0, 0]);
    const red = toColourPlanes(filled(4, 4, [200, 40, 40]));
    expect(red.a[5]).toBeGreaterThan(100);
    const blue = toColourPlanes(filled(4, 4, [40, 40, 200]));
    expect(blue.b[5]).toBeLessThan(-100);
  });

  it('come out the same made small at once or halved', () => {
    const image = filled(64, 32, [10, 20, 30]);
    for (let x = 32; x < 64; x++) for (let y = 0; y < 32; y++) image.data.set([200, 180, 160], (y * 64 + x) * 3);
    const small = toSmallColourPlanes(image, 32);
    const halved = halvePlanes(toColourPlanes(image));
    expect([small.width, small.height]).toEqual([halved.width, halved.height]);
    small.l.forEach((v, i) => expect(v).toBeCloseTo(halved.l[i]!, 2));
    small.b.forEach((v, i) => expect(v).toBeCloseTo(halved.b[i]!, 2));
  });

  it('of a dim picture are brought up with their colours, of a light one left as they are', () => {
    const dim = toColourPlanes(filled(40, 40, [34, 34, 17]));
    const bright = brightenPlanes(dim);
    const gain = bright.l[7]! / dim.l[7]!;
    expect(bright.l[7]).toBeCloseTo(170, 0);
    expect(bright.b[7]! / dim.b[7]!).toBeCloseTo(gain, 5);
    // never more than sixfold: noise would pass for edges
    expect(brightenPlanes(toColourPlanes(filled(40, 40, [5, 5, 5]))).l[0]).toBeCloseTo(30, 0);
    const light = toColourPlanes(filled(40, 40, [220, 220, 220]));
    expect(brightenPlanes(light)).toBe(light);
  });
});
