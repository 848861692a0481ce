/**
 * Solves a square system of linear equations by Gaussian elimination with partial pivoting.
 * @param matrix - n × n, row-major; @param right - n; both are left as they are
 * @returns n numbers, or null where the matrix is singular
 */
export function solveLinear(matrix: Float64Array, right: Float64Array): Float64Array | null {
  const n = right.length;
  const a = matrix.slice();
  const b = right.slice();
  for (let k = 0; k < n; k++) {
    let pivot = k;
    for (let i = k + 1; i < n; i++) if (Math.abs(a[i * n + k]!) > Math.abs(a[pivot * n + k]!)) pivot = i;
    if (Math.abs(a[pivot * n + k]!) < 1e-12) return null;
    if (pivot !== k) {
      for (let j = 0; j < n; j++) [a[k * n + j], a[pivot * n + j]] = [a[pivot * n + j]!, a[k * n + j]!];
      [b[k], b[pivot]] = [b[pivot]!, b[k]!];
    }
    for (let i = k + 1; i < n; i++) {
      const f = a[i * n + k]! / a[k * n + k]!;
      for (let j = k; j < n; j++) a[i * n + j]! -= f * a[k * n + j]!;
      b[i]! -= f * b[k]!;
    }
  }
  for (let k = n - 1; k >= 0; k--) {
    for (let j = k + 1; j < n; j++) b[k]! -= a[k * n + j]! * b[j]!;
    b[k]! /= a[k * n + k]!;
  }
  return b;
}
