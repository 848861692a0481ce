export const mean = (values: readonly number[]): number => values.reduce((a, b) => a + b, 0) / values.length;
/** The value below which this share of them lies; NaN without any. */
export const quantile = (values: readonly number[], share: number): number =>
  [...values].sort((a, b) => a - b)[Math.min(values.length - 1, Math.floor(share * values.length))] ?? NaN;
export const percent = (share: number): string => `${(100 * share).toFixed(1)} %`;
