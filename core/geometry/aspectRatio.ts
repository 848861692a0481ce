import { homographyBetween } from './homography';
import { mapQuad, wholePicture, type Quad } from './quad';

/** Focal length over the picture's long side when nothing is known: a phone's main camera, 26 mm on 36 mm film. */
export const TYPICAL_FOCAL_SHARE = 0.74;
/** How far phones stray from it, as a standard deviation of the logarithm. */
const FOCAL_LOG_SPREAD = 0.16;
/** Corner noise as an angle: about 1.5 px on a side of 400 px. */
const RIGHT_ANGLE_SPREAD = 0.006;

export interface PageProportions {
  /** Width over height of the flat page. */
  readonly aspect: number;
  /** Focal length over the picture's long side that explains the outline best. */
  readonly focalShare: number;
}

/**
 * Recovers the true proportions of a rectangle from its four corners in a photo.
 * Method: Zhang & He, "Whiteboard scanning and image enhancement" (Digital Signal Processing 17, 2007), section 3: for a
 * pinhole camera whose principal point is the picture's middle, the page's two directions are at right angles for one
 * focal length. Near fronto-parallel that equation says nothing about the focal length, so it is weighed against a prior
 * (most probable value over a grid): strong perspective decides for itself, weak perspective falls back on the prior.
 * Limits: a cropped photo moves the principal point; lens distortion is not modelled.
 * @param quad - corners in photo pixels, TL, TR, BR, BL
 * @param width - photo width in px
 * @param height - photo height in px
 * @param focalShare - focal length over the photo's long side where the file tells it; it then counts as known to 4 %
 * @throws FotoplanError OUTLINE_DEGENERATE when three corners lie on one line
 */
export function recoverProportions(quad: Quad, width: number, height: number, focalShare?: number): PageProportions {
  const longSide = Math.max(width, height);
  const centred = mapQuad(quad, (p) => ({ x: p.x - width / 2, y: p.y - height / 2 }));
  const h = homographyBetween(wholePicture(1, 1), centred);
  const prior = focalShare ?? TYPICAL_FOCAL_SHARE;
  const spread = focalShare === undefined ? FOCAL_LOG_SPREAD : 0.04;
  let best = { cost: Infinity, aspect: 1, focalShare: prior };
  for (let step = -60; step <= 60; step++) {
    const logOff = (step / 60) * Math.min(1.1, spread * 5);
    const share = prior * Math.exp(logOff);
    const f = share * longSide;
    const ff = f * f;
    const lengthX = Math.sqrt((h[0] * h[0] + h[3] * h[3]) / ff + h[6] * h[6]);
    const lengthY = Math.sqrt((h[1] * h[1] + h[4] * h[4]) / ff + h[7] * h[7]);
    const cosine = ((h[0] * h[1] + h[3] * h[4]) / ff + h[6] * h[7]) / (lengthX * lengthY);
    const cost = (logOff / spread) ** 2 + (cosine / RIGHT_ANGLE_SPREAD) ** 2;
    if (cost < best.cost) best = { cost, aspect: lengthX / lengthY, focalShare: share };
  }
  return { aspect: best.aspect, focalShare: best.focalShare };
}

/**
 * How far the camera was tilted against a page, in degrees: the angle between the page's normal and the line of sight, with
 * the focal length of recoverProportions.
 * @throws FotoplanError OUTLINE_DEGENERATE when three corners lie on one line
 */
export function recoverTilt(quad: Quad, width: number, height: number): number {
  const h = homographyBetween(wholePicture(1, 1), mapQuad(quad, (p) => ({ x: p.x - width / 2, y: p.y - height / 2 })));
  const f = recoverProportions(quad, width, height).focalShare * Math.max(width, height);
  const [ax, ay, az] = [h[0] / f, h[3] / f, h[6]];
  const [bx, by, bz] = [h[1] / f, h[4] / f, h[7]];
  const normal = [ay * bz - az * by, az * bx - ax * bz, ax * by - ay * bx] as const;
  return (Math.acos(Math.min(1, Math.abs(normal[2]) / Math.hypot(...normal))) * 180) / Math.PI;
}
