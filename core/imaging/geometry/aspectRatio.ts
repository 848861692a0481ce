import { homographyBetween } from './homography';
import { mapQuad, wholePicture, type Quad } from './quad';

/** Focal length over the picture's long side when nothing is known: a phone's main camera, which is told as 26 mm on film 36 mm wide. */
export const TYPICAL_FOCAL_RATIO = 26 / 36;
/** How far phones stray from it, as a standard deviation of the logarithm. */
const FOCAL_LOG_SPREAD = 0.16;
/** Corner noise as an angle: about 1.5 px on a side of 400 px. */
const RIGHT_ANGLE_SPREAD = 0.006;

export interface PageProportions {
  /** Width over height of the flat page. */
  readonly aspect: number;
  /** Focal length over the picture's long side that explains the outline best. */
  readonly focalRatio: number;
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
 * @param focalRatio - focal length over the photo's long side where the file tells it; it then counts as known to 4 %
 * @throws FotoplanError OUTLINE_DEGENERATE when three corners lie on one line
 */
export function recoverProportions(
  quad: Quad,
  width: number,
  height: number,
  focalRatio: number | null = null,
): PageProportions {
  const longSide = Math.max(width, height);
  const centred = mapQuad(quad, (p) => ({ x: p.x - width / 2, y: p.y - height / 2 }));
  const h = homographyBetween(wholePicture(1, 1), centred);
  const prior = focalRatio ?? TYPICAL_FOCAL_RATIO;
  const spread = focalRatio === null ? FOCAL_LOG_SPREAD : 0.04;
  let best = { cost: Infinity, aspect: 1, focalRatio: prior };
  for (let step = -60; step <= 60; step++) {
    const logOff = (step / 60) * Math.min(1.1, spread * 5);
    const share = prior * Math.exp(logOff);
    const f = share * longSide;
    const ff = f * f;
    const lengthX = Math.sqrt((h[0] * h[0] + h[3] * h[3]) / ff + h[6] * h[6]);
    const lengthY = Math.sqrt((h[1] * h[1] + h[4] * h[4]) / ff + h[7] * h[7]);
    const cosine = ((h[0] * h[1] + h[3] * h[4]) / ff + h[6] * h[7]) / (lengthX * lengthY);
    const cost = (logOff / spread) ** 2 + (cosine / RIGHT_ANGLE_SPREAD) ** 2;
    if (cost < best.cost) best = { cost, aspect: lengthX / lengthY, focalRatio: share };
  }
  return { aspect: best.aspect, focalRatio: best.focalRatio };
}

/** A vector before the camera: to the right, down, and away from it. */
export type Direction = readonly [number, number, number];

/** How a flat page lies before the camera: its place (x, y) in page heights is at corner + x · across + y · down. */
export interface PagePose extends PageProportions {
  readonly corner: Direction;
  readonly across: Direction;
  readonly down: Direction;
  /** Of the page, towards the camera, as long as across and down are. */
  readonly normal: Direction;
}

/**
 * How a page lies before the camera, in page heights times a factor that a picture does not tell, with the proportions and
 * the focal length of recoverProportions.
 * Method: the columns of the homography from the page's plane, freed from the camera (Zhang, "A flexible new technique for
 * camera calibration", PAMI 22, 2000, section 3.1).
 * @param quad - corners in photo pixels, TL, TR, BR, BL
 * @param width - photo width in px; so its height
 * @param focalRatio - as for recoverProportions
 * @throws FotoplanError OUTLINE_DEGENERATE when three corners lie on one line
 */
export function recoverPose(quad: Quad, width: number, height: number, focalRatio: number | null = null): PagePose {
  const proportions = recoverProportions(quad, width, height, focalRatio);
  const f = proportions.focalRatio * Math.max(width, height);
  const h = homographyBetween(
    wholePicture(proportions.aspect, 1),
    mapQuad(quad, (p) => ({ x: p.x - width / 2, y: p.y - height / 2 })),
  );
  const sign = h[8] < 0 ? -1 : 1; // the page lies before the camera
  const column = (c: 0 | 1 | 2): Direction => [(sign * h[c]) / f, (sign * h[(3 + c) as 3]) / f, sign * h[(6 + c) as 6]];
  const [across, down, corner] = [column(0), column(1), column(2)];
  const upwards: Direction = [
    down[1] * across[2] - down[2] * across[1],
    down[2] * across[0] - down[0] * across[2],
    down[0] * across[1] - down[1] * across[0],
  ];
  const size = (Math.hypot(...across) + Math.hypot(...down)) / 2 / Math.hypot(...upwards);
  return { ...proportions, corner, across, down, normal: [size * upwards[0], size * upwards[1], size * upwards[2]] };
}

/**
 * How far the camera was tilted against a page, in degrees: the angle between the page's normal and the line of sight, with
 * the focal length of recoverProportions.
 * @throws FotoplanError OUTLINE_DEGENERATE when three corners lie on one line
 */
export function recoverTilt(quad: Quad, width: number, height: number): number {
  const { normal } = recoverPose(quad, width, height);
  return (Math.acos(Math.min(1, Math.abs(normal[2]) / Math.hypot(...normal))) * 180) / Math.PI;
}
