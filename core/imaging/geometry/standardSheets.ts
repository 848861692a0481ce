/** The proportions of the paper: recovered from the photo (snapped to a standard sheet nearby), or as a person said. */
export const SHEETS = ['auto', 'a', 'letter', 'card', 'free'] as const;
export type Sheet = (typeof SHEETS)[number];

/** Long side over short side of the sheets people write on. */
export const STANDARD_SHEETS = {
  a: Math.SQRT2, // A4, A5: ISO 216
  letter: 11 / 8.5,
  card: 85.6 / 53.98, // ISO/IEC 7810 ID-1
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

/** The width-over-height of the sheet chosen, turned the way the page was seen to lie; free keeps what was seen. */
export function chooseAspect(seen: number, sheet: Sheet): number {
  if (sheet === 'auto') return snapAspect(seen);
  if (sheet === 'free') return seen;
  const ratio = STANDARD_SHEETS[sheet];
  return seen >= 1 ? ratio : 1 / ratio;
}
