import fc from 'fast-check';
import { leastSquares } from './leastSquares';
import { solveLinear } from './solveLinear';

const value = fc.double({ min: -3, max: 3, noNaN: true });

describe('leastSquares', () => {
  it('finds the parameters of a curve from its points', () =>
    fc.assert(
      fc.property(value, fc.double({ min: 0.3, max: 2, noNaN: true }), (shift, rate) => {
        const at = Array.from({ length: 15 }, (_, i) => i / 7);
        const { parameters, cost } = leastSquares(
          (p, out) => at.forEach((x, i) => (out[i] = p[0]! + Math.exp(-p[1]! * x) - (shift + Math.exp(-rate * x)))),
          Float64Array.of(0, 1),
          at.length,
        );
        expect(parameters[0]).toBeCloseTo(shift, 3);
        expect(parameters[1]).toBeCloseTo(rate, 2);
        expect(cost).toBeLessThan(1e-5);
      }),
      { numRuns: 40 },
    ));

  it('never ends worse than it began', () => {
    const residuals = (p: Float64Array, out: Float64Array): void => {
      out[0] = 10 * (p[1]! - p[0]! ** 2);
      out[1] = 1 - p[0]!;
    };
    const { parameters, cost } = leastSquares(residuals, Float64Array.of(-1.2, 1), 2);
    expect(cost).toBeLessThan(12);
    expect(Math.hypot(parameters[0]! - 1, parameters[1]! - 1)).toBeLessThan(0.1);
  });
});

describe('solveLinear', () => {
  it('solves what can be solved and says so of what cannot', () => {
    expect(Array.from(solveLinear(Float64Array.of(0, 2, 1, 1), Float64Array.of(4, 5))!)).toEqual([3, 2]);
    expect(solveLinear(Float64Array.of(1, 2, 2, 4), Float64Array.of(1, 2))).toBeNull();
  });
});
