import fc from 'fast-check';
import { fillMasked } from './fillMasked';

const WIDTH = 61;
const HEIGHT = 43;
const plane = (at: (x: number, y: number) => number): Float32Array =>
  Float32Array.from({ length: WIDTH * HEIGHT }, (_, i) => at(i % WIDTH, Math.floor(i / WIDTH)));
const disc = Uint8Array.from(plane((x, y) => (Math.hypot(x - 30, y - 20) < 12 ? 1 : 0)));

describe('fillMasked', () => {
  it('leaves what is known as it is, whatever lay under the mask', () => {
    fc.assert(
      fc.property(fc.array(fc.boolean(), { minLength: WIDTH * HEIGHT, maxLength: WIDTH * HEIGHT }), (holes) => {
        const mask = Uint8Array.from(holes, Number);
        const known = plane((x, y) => 100 + x + y);
        const filled = fillMasked(
          known.map((v, i) => (mask[i] === 1 ? -1e6 : v)),
          mask,
          WIDTH,
          HEIGHT,
        );
        for (let i = 0; i < mask.length; i++) if (mask[i] === 0) expect(filled[i]).toBeCloseTo(known[i]!, 3);
      }),
      { numRuns: 15 },
    );
  });

  it('carries an even tone across, and stays between what is around it', () => {
    expect(
      Math.max(
        ...fillMasked(
          plane(() => 180),
          disc,
          WIDTH,
          HEIGHT,
        ).map((v) => Math.abs(v - 180)),
      ),
    ).toBeLessThan(1e-3);
    const slope = fillMasked(
      plane((x) => 100 + 2 * x),
      disc,
      WIDTH,
      HEIGHT,
    );
    for (let i = 0; i < slope.length; i++) {
      expect(slope[i]).toBeGreaterThanOrEqual(100 - 1e-3);
      expect(slope[i]).toBeLessThanOrEqual(100 + 2 * WIDTH);
    }
    // brighter on the side where it is brighter
    expect(slope[20 * WIDTH + 40]!).toBeGreaterThan(slope[20 * WIDTH + 20]! + 20);
  });

  it('hands back a plane with nothing to fill, and makes white of one with nothing known', () => {
    const whole = plane(() => 7);
    expect(fillMasked(whole, new Uint8Array(WIDTH * HEIGHT), WIDTH, HEIGHT)).toBe(whole);
    expect(new Set(fillMasked(whole, new Uint8Array(WIDTH * HEIGHT).fill(1), WIDTH, HEIGHT))).toEqual(new Set([255]));
  });
});
