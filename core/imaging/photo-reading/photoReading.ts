import { LONGEST_PX, type MotionBlur } from '../motion-blur/motionBlur';

/**
 * What is measured on a photo once, at its full size, and then kept with it: every size that its page is shown at is made from
 * the same numbers. Plain data.
 */
export interface PhotoReading {
  /** Focal length over the photo's long side, as the file tells it; null where it does not. */
  readonly focalRatio: number | null;
  /** How the camera moved while the shutter was open, in pixels of the photo; null where it did not. */
  readonly motionBlur: MotionBlur | null;
}

/** Of a photo that nobody has looked at, or that was looked at before there were readings. */
export const UNREAD: PhotoReading = { focalRatio: null, motionBlur: null };

/** Lenses of phones and cameras, from very wide to very long, as focal length over the photo's long side. */
const FOCAL_RATIOS = { least: 0.2, most: 10 } as const;

/** The reading of a copy of the photo that is this many times as large. */
export const scaleReading = ({ focalRatio, motionBlur }: PhotoReading, factor: number): PhotoReading => ({
  focalRatio,
  motionBlur: motionBlur === null ? null : { ...motionBlur, lengthPx: motionBlur.lengthPx * factor },
});

/** Whether a focal length, over the long side of the sensor, is one that a lens can have. */
export const isFocalRatio = (value: number): boolean => value >= FOCAL_RATIOS.least && value <= FOCAL_RATIOS.most;

/** What is wrong with something that should be a reading, in a sentence; null where it is one. */
export function readingProblem(reading: unknown): string | null {
  const { focalRatio, motionBlur } = (reading ?? {}) as { focalRatio?: unknown; motionBlur?: unknown };
  if (focalRatio !== null && !(typeof focalRatio === 'number' && isFocalRatio(focalRatio)))
    return `The photo’s focal length must be from ${FOCAL_RATIOS.least} to ${FOCAL_RATIOS.most} of its long side, or left out.`;
  if (motionBlur === null) return null;
  const { lengthPx, angleRad } = (motionBlur ?? {}) as { lengthPx?: unknown; angleRad?: unknown };
  const known =
    typeof lengthPx === 'number' &&
    lengthPx > 0 &&
    lengthPx <= LONGEST_PX &&
    typeof angleRad === 'number' &&
    Math.abs(angleRad) <= Math.PI;
  return known ? null : 'The photo’s motion blur needs a length and a direction, or must be left out.';
}
