/**
 * The value that a share of others does not exceed (nearest rank).
 * @param values - in any order; left as they are
 * @param share - 0 to 1; 0.5 for the median
 * @param ifEmpty - the answer where there are none
 */
export function quantile(values: ArrayLike<number>, share: number, ifEmpty = NaN): number {
  const sorted = Float64Array.from(values).sort();
  return sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))] ?? ifEmpty;
}
