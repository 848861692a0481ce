import fc from 'fast-check';
import { bilinear } from './bilinear';
import { quantile } from './quantile';

describe('quantile', () => {
  it('is a value with the asked share below it, and leaves the others as they were', () =>
    fc.assert(
      fc.property(
        fc.array(fc.integer(), { minLength: 1, maxLength: 60 }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (values, share) => {
          const before = [...values];
          const found = quantile(values, share);
          expect(values).toEqual(before);
          expect(values).toContain(found);
          expect(values.filter((value) => value < found).length).toBeLessThanOrEqual(share * values.length);
          if (share < 1)
            expect(values.filter((value) => value <= found).length).toBeGreaterThan(share * values.length - 1e-9);
        },
      ),
    ));

  it('sorts numbers as numbers, and says what was asked where there are none', () => {
    expect(quantile([100, 9, 20], 0.5)).toBe(20);
    expect(quantile([], 0.5, 7)).toBe(7);
    expect(quantile([], 0.5)).toBeNaN();
  });
});

describe('bilinear', () => {
  it('gives back a plane that is level in both directions', () =>
    fc.assert(
      fc.property(fc.double({ min: 0, max: 1, noNaN: true }), fc.double({ min: 0, max: 1, noNaN: true }), (fx, fy) => {
        const data = Float32Array.from({ length: 12 }, (_, i) => 3 * (i % 4) + 10 * Math.floor(i / 4));
        expect(bilinear(data, 4, 5, fx, fy)).toBeCloseTo(3 * (1 + fx) + 10 * (1 + fy), 9);
      }),
    ));
});
