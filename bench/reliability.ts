import { mean } from './statistics';

/** A confidence, and whether what it was said of is right. */
export interface Said {
  readonly confidence: number;
  readonly right: boolean;
}

/** What is said with confidences of one range, and how often it is right. */
export interface ReliabilityBin {
  readonly from: number;
  readonly to: number;
  readonly count: number;
  readonly meanConfidence: number;
  readonly shareRight: number;
}

/**
 * How far confidences can be believed.
 * @param bins - ranges of one width, from 0 to 1
 * @returns the ranges in which something was said, and the expected calibration error: the mean distance of what is said from
 *   what is right, each range by how much it holds (Naeini, Cooper & Hauskrecht, AAAI 2015)
 */
export function reliabilityOf(
  said: readonly Said[],
  bins = 10,
): { readonly bins: readonly ReliabilityBin[]; readonly expectedError: number } {
  const filled = Array.from({ length: bins }, (_, k) => {
    const within = said.filter(({ confidence }) => Math.min(bins - 1, Math.floor(confidence * bins)) === k);
    return { from: k / bins, to: (k + 1) / bins, within };
  }).filter(({ within }) => within.length > 0);
  const rows = filled.map(({ from, to, within }): ReliabilityBin => ({
    from,
    to,
    count: within.length,
    meanConfidence: mean(within.map(({ confidence }) => confidence)),
    shareRight: mean(within.map(({ right }) => (right ? 1 : 0))),
  }));
  const expectedError = rows.reduce(
    (sum, { count, meanConfidence, shareRight }) => sum + (count * Math.abs(meanConfidence - shareRight)) / said.length,
    0,
  );
  return { bins: rows, expectedError };
}
