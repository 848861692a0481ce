import { createNormalEquations } from './normalEquations';

/** Fills `out` with the residuals at the parameters given; always the same number of them. */
export type Residuals = (parameters: Float64Array, out: Float64Array) => void;

export interface Minimum {
  readonly parameters: Float64Array;
  /** Half the sum of squared residuals. */
  readonly cost: number;
}

/** Steps at most; ten are usual. */
const MOST_STEPS = 40;

/**
 * The parameters with the least sum of squared residuals near a start.
 * Method: Levenberg–Marquardt (Marquardt 1963) with forward differences; steps that make it worse are damped more.
 * Limits: finds the minimum nearest to the start; parameters should be of the order of one, for the differences' sake.
 * @param start - one number a parameter; left as it is
 * @param count - how many residuals there are
 * @param enough - a step that makes it better by less than this share is the last; a rough minimum needs no more than 0.001
 */
export function leastSquares(residuals: Residuals, start: Float64Array, count: number, enough = 1e-5): Minimum {
  const n = start.length;
  let parameters = start.slice();
  let r = new Float64Array(count);
  let trial = new Float64Array(count);
  const jacobian = new Float64Array(count * n);
  residuals(parameters, r);
  let cost = halfSquares(r);
  let damping = 1e-3;
  for (let step = 0; step < MOST_STEPS; step++) {
    for (let j = 0; j < n; j++) {
      const moved = parameters.slice();
      const h = 1e-5 * Math.max(0.1, Math.abs(moved[j]!));
      moved[j]! += h;
      residuals(moved, trial);
      for (let i = 0; i < count; i++) jacobian[i * n + j] = (trial[i]! - r[i]!) / h;
    }
    const equations = createNormalEquations(n);
    for (let i = 0; i < count; i++) equations.add(jacobian.subarray(i * n, (i + 1) * n), -r[i]!, 1);
    const before = cost;
    let better = false;
    for (let attempt = 0; attempt < 8 && !better; attempt++) {
      const move = equations.solve((_, entry) => damping * (entry + 1e-9));
      if (move !== null) {
        const next = parameters.map((p, j) => p + move[j]!);
        residuals(next, trial);
        const nextCost = halfSquares(trial);
        if (nextCost < cost) {
          parameters = next;
          [r, trial] = [trial, r];
          cost = nextCost;
          better = true;
        }
      }
      damping = better ? Math.max(1e-9, damping * 0.3) : damping * 5;
    }
    if (!better || before - cost < enough * before) break;
  }
  return { parameters, cost };
}

const halfSquares = (r: Float64Array): number => r.reduce((sum, v) => sum + v * v, 0) / 2;
