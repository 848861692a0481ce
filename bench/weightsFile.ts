/**
 * The text of a file of trained weights, with four decimals.
 * @param prefix - what the constants' names begin with
 * @param ranker - null where the subject has no ranker of its own
 */
export function weightsFile(prefix: string, ranker: readonly number[] | null, confidence: readonly number[]): string {
  const constant = (name: string, values: readonly number[]): string =>
    `export const ${prefix}${name}: readonly number[] = [${values.map((x) => Number(x.toFixed(4))).join(', ')}];\n`;
  return `// Written by bench/trainScorer.ts; do not edit by hand.\n${ranker === null ? '' : constant('SCORER_WEIGHTS', ranker)}${constant('CONFIDENCE_WEIGHTS', confidence)}`;
}
