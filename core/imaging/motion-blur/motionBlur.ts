/** How the camera moved while the shutter was open, in pixels: x to the right, y down, to either end alike. */
export interface MotionBlur {
  readonly lengthPx: number;
  readonly angleRad: number;
}

/** The longest that is told, px of the photo. */
export const LONGEST_PX = 10;
