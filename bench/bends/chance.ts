/** Numbers that are the same for the same seed. */
export interface Chance {
  /** From low up to high. */
  readonly from: (low: number, high: number) => number;
  readonly one: <T>(of: readonly T[]) => T;
  readonly sign: () => 1 | -1;
  /** Mean 0, standard deviation 1: the sum of twelve even ones, less six. */
  readonly normal: () => number;
}

/** SFC32 (Doty-Humphrey, PractRand), run in for a dozen steps. */
export function chanceOf(seed: number): Chance {
  let [a, b, c, d] = [seed | 0, 0x9e3779b9 | 0, 0x243f6a88, 1];
  const next = (): number => {
    const sum = (((a + b) | 0) + d) | 0;
    d = (d + 1) | 0;
    a = b ^ (b >>> 9);
    b = (c + (c << 3)) | 0;
    c = ((c << 21) | (c >>> 11)) + sum;
    return (sum >>> 0) / 2 ** 32;
  };
  for (let k = 0; k < 12; k++) next();
  const from = (low: number, high: number): number => low + (high - low) * next();
  return {
    from,
    one: (of) => of[Math.floor(next() * of.length)]!,
    sign: () => (next() < 0.5 ? -1 : 1),
    normal: () => Array.from({ length: 12 }, next).reduce((p, q) => p + q) - 6,
  };
}
