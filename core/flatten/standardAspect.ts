/** Long side over short side of the sheets people write on. */
export const STANDARD_SHEETS = {
  a: Math.SQRT2, // A4, A5: ISO 216
  letter: 11 / 8.5,
} as const;

/** A recovered ratio this close (as a share) to a standard sheet's is taken to be that sheet. */
const TOLERANCE = 0.03;

/** The width-over-height of the standard sheet within tolerance, either way up, or the aspect as it came. */
export function snapAspect(aspect: number): number {
  const ratio = Math.max(aspect, 1 / aspect);
  let best = ratio;
  let miss = TOLERANCE;
  for (const standard of Object.values(STANDARD_SHEETS)) {
    const off = Math.abs(ratio / standard - 1);
    if (off < miss) {
      miss = off;
      best = standard;
    }
  }
  return aspect >= 1 ? best : 1 / best;
}
