/**
 * The value that a share of others does not exceed (nearest rank).
 * Method: Hoare, "Algorithm 65: FIND", Communications of the ACM 4(7), 1961: on average it looks at each value about three
 * times, where sorting does so as often as n has bits.
 * @param values - numbers in any order, left as they are; none is NaN
 * @param share - 0 to 1; 0.5 for the median
 * @param ifEmpty - the answer where there are none
 */
export function quantile(values: ArrayLike<number>, share: number, ifEmpty = NaN): number {
  const n = values.length;
  if (n === 0) return ifEmpty;
  const v = new Float64Array(n);
  v.set(values);
  const rank = Math.min(n - 1, Math.floor(share * n));
  for (let low = 0, high = n - 1; low < high;) {
    const pivot = v[rank]!;
    let [i, j] = [low, high];
    while (i <= j) {
      while (v[i]! < pivot) i++;
      while (v[j]! > pivot) j--;
      if (i > j) break;
      const kept = v[i]!;
      v[i++] = v[j]!;
      v[j--] = kept;
    }
    if (j < rank) low = i;
    if (rank < i) high = j;
  }
  return v[rank]!;
}
