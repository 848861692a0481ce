import fc from 'fast-check';
import { halveImage } from './halveImage';
import { closePlane, extremeFilter } from './morphology';
import { pixelImageFrom, type PixelImage } from './pixelImage';
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
      fc.property(fc.integer({ min: 1, max: 40 }), fc.integer({ min: 1, max: 40 }), fc.constantFrom(1, 3, 4), (w, h, channels) => {
        const image = noise(40, 40, channels);
        const small = resizeByArea(image, w, h);
        expect(small.data.length).toBe(w * h * channels);
        expect(Math.abs(mean(small) - mean(image))).toBeLessThan(1.5);
      }),
    );
    expect(() => resizeByArea(noise(4, 4, 1), 5, 4)).toThrow(RangeError);
  });

  it('turns fine stripes into their mean instead of a pattern', () => {
    const stripes: PixelImage = { width: 300, height: 4, channels: 1, data: Uint8ClampedArray.from({ length: 1200 }, (_, i) => (i % 2) * 255) };
    const small = resizeByArea(stripes, 100, 2);
    expect(Math.max(...small.data) - Math.min(...small.data)).toBeLessThan(90);
    expect(Math.max(...halveImage(stripes).data)).toBeLessThan(129);
  });

  it('fits the long side and leaves smaller pictures alone', () => {
    expect(fitLongSide(noise(400, 300, 3), 100)).toMatchObject({ width: 100, height: 75 });
    const small = noise(40, 30, 3);
    expect(fitLongSide(small, 100)).toBe(small);
  });

  it('checks what comes from outside', () => {
    expect(() => pixelImageFrom(2, 2, 3, new Uint8ClampedArray(11))).toThrow('needs 12 samples, got 11');
    expect(() => pixelImageFrom(0, 2, 3, new Uint8ClampedArray(0))).toThrow(RangeError);
  });
});

describe('morphology', () => {
  it('agrees with looking at every neighbour', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: 255 }), { minLength: 35, maxLength: 35 }), fc.integer({ min: 1, max: 4 }), (values, radius) => {
        const plane = Float32Array.from(values);
        const got = extremeFilter(plane, 7, 5, radius, 'largest');
        for (let y = 0; y < 5; y++) {
          for (let x = 0; x < 7; x++) {
            let most = -Infinity;
            for (let yy = Math.max(0, y - radius); yy <= Math.min(4, y + radius); yy++) {
              for (let xx = Math.max(0, x - radius); xx <= Math.min(6, x + radius); xx++) most = Math.max(most, plane[yy * 7 + xx]!);
            }
            expect(got[y * 7 + x]).toBe(most);
          }
        }
      }),
    );
  });

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
});
