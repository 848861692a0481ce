import { solveLinear } from './solveLinear';

/** The normal equations of a weighted linear least squares problem, gathered one observation at a time. */
export interface NormalEquations {
  /** Adds an observation: `row` · unknowns = target. */
  readonly add: (row: ArrayLike<number>, target: number, weight: number) => void;
  /**
   * The unknowns with the least weighted sum of squared residuals; may be asked for again with another ridge.
   * @param ridge - what is added to the k-th entry of the diagonal, given what stands there; nothing by default
   * @returns null where the observations do not determine them
   */
  readonly solve: (ridge?: (k: number, entry: number) => number) => Float64Array | null;
}

/**
 * Begins with no observation.
 * @param unknowns - how many there are
 */
export function createNormalEquations(unknowns: number): NormalEquations {
  const n = unknowns;
  const matrix = new Float64Array(n * n);
  const right = new Float64Array(n);
  return {
    add(row, target, weight) {
      for (let i = 0; i < n; i++) {
        const scaled = weight * row[i]!;
        if (scaled === 0) continue;
        right[i]! += scaled * target;
        for (let j = 0; j <= i; j++) matrix[i * n + j]! += scaled * row[j]!;
      }
    },
    solve(ridge = () => 0) {
      const whole = matrix.slice();
      for (let i = 0; i < n; i++) {
        whole[i * n + i]! += ridge(i, matrix[i * n + i]!);
        for (let j = 0; j < i; j++) whole[j * n + i] = whole[i * n + j]!;
      }
      return solveLinear(whole, right);
    },
  };
}
