/**
 * How much a residual counts in a robust fit: Tukey's biweight.
 * @param u - residual over the cut-off from which on it has no say
 * @returns 1 at 0, falling to 0 at ±1 and beyond
 */
export const tukeyWeight = (u: number): number => (u <= -1 || u >= 1 ? 0 : (1 - u * u) ** 2);
