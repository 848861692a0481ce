import fc from 'fast-check';
import { createNormalEquations } from './normalEquations';
import { peakOffset } from './peakOffset';
import { tukeyWeight } from './tukeyWeight';

const coefficient = fc.integer({ min: -50, max: 50 });

describe('normal equations', () => {
  it('find the line that all observations lie on, whatever their weights', () =>
    fc.assert(
      fc.property(
        coefficient,
        coefficient,
        fc.array(fc.integer({ min: 1, max: 9 }), { minLength: 5, maxLength: 9 }),
        (a, b, weights) => {
          const equations = createNormalEquations(2);
          weights.forEach((weight, x) => equations.add([1, x], a + b * x, weight));
          const fit = equations.solve()!;
          expect(fit[0]).toBeCloseTo(a, 6);
          expect(fit[1]).toBeCloseTo(b, 6);
        },
      ),
    ));

  it('leave out what has no weight, and give in to a ridge', () => {
    const equations = createNormalEquations(1);
    equations.add([1], 4, 1);
    equations.add([1], 1000, 0);
    expect(equations.solve()![0]).toBeCloseTo(4, 12);
    expect(equations.solve((_, entry) => entry)![0]).toBeCloseTo(2, 12);
    // asking once does not change what is asked next
    expect(equations.solve()![0]).toBeCloseTo(4, 12);
  });

  it('say so where the observations do not determine the unknowns', () => {
    const equations = createNormalEquations(2);
    equations.add([1, 2], 3, 1);
    expect(equations.solve()).toBeNull();
  });
});

describe('peakOffset', () => {
  it('is the top of the parabola through three samples', () =>
    fc.assert(
      fc.property(
        fc.double({ min: -0.5, max: 0.5, noNaN: true }),
        fc.double({ min: 0.1, max: 9, noNaN: true }),
        (top, steep) => {
          const at = (x: number): number => 5 - steep * (x - top) ** 2;
          expect(peakOffset(at(-1), at(0), at(1))).toBeCloseTo(top, 9);
        },
      ),
    ));

  it('is 0 where they do not curve downwards', () => {
    expect(peakOffset(3, 3, 3)).toBe(0);
    expect(peakOffset(5, 1, 4)).toBe(0);
  });
});

describe('tukeyWeight', () => {
  it('falls from 1 to 0 at the cut-off, evenly to both sides, and stays there', () => {
    expect([0, 0.5, 1, 3].map(tukeyWeight)).toEqual([1, 0.5625, 0, 0]);
    for (const u of [0.2, 0.7, 1, 9]) expect(tukeyWeight(-u)).toBe(tukeyWeight(u));
  });
});
