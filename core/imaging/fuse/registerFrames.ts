import { fitHomography } from '../geometry/fitHomography';
import { applyHomography, type Homography } from '../geometry/homography';
import { distance, scalePoint, type Point } from '../geometry/point';
import { tukeyWeight } from '../geometry/tukeyWeight';
import { halvePlane, type Plane } from '../raster/plane';
import { followTiles } from './followTiles';

/*
 * Where each point of one frame lies in another of the same flat scene, to a few hundredths of a pixel.
 * 1. Both are halved down to about 160 px; there the shift with the least absolute difference is searched.
 * 2. From level to level, tiles with texture are followed by Lucas & Kanade's method (IJCAI 1981; inverse-compositional
 *    form, Baker & Matthews 2004), each beginning where the homography so far puts it.
 * 3. A homography is fitted through the tiles, those that disagree weighed down (Tukey's biweight), so that a hand that
 *    moves over the page does not drag the page along.
 * Assumes one plane or little parallax, shifts up to a tenth of the picture, and the same exposure up to a constant.
 */

export interface Registration {
  /** From pixels of the reference to pixels of the frame. */
  readonly homography: Homography;
  /** Share of the textured tiles that agree with it within half a pixel. */
  readonly agreement: number;
}

/** Long side at which the first shift is searched, px. */
const COARSEST_LONG_SIDE_PX = 160;
/** How far it is searched there, px: a tenth of the picture. */
const SHIFT_REACH_PX = 16;
/** Side of the tiles that are followed, px: smaller ones have too little texture, larger ones tilt within. */
const TILE_PX = 24;
/** Tiles along the long side. */
const TILES_ACROSS = 14;
/** Following tiles on finer levels than this gains nothing: LK is exact to a twentieth of a pixel. */
const FINEST_LONG_SIDE_PX = 1600;

/**
 * Method and limits: see above.
 * @param reference - lightness; @param frame - of the same size
 * @param among - whether a place of the reference, px, belongs to what both show; all of it by default
 * @returns null where too few tiles with texture could be followed: the frames do not show the same scene
 */
export function registerFrames(
  reference: Plane,
  frame: Plane,
  among: (at: Point) => boolean = () => true,
): Registration | null {
  const levels: { reference: Plane; frame: Plane; scale: number }[] = [{ reference, frame, scale: 1 }];
  while (Math.max(levels[0]!.reference.width, levels[0]!.reference.height) > COARSEST_LONG_SIDE_PX) {
    const finer = levels[0]!;
    levels.unshift({ reference: halvePlane(finer.reference), frame: halvePlane(finer.frame), scale: finer.scale * 2 });
  }
  const start = bestShift(levels[0]!.reference, levels[0]!.frame);
  let homography: Homography = [1, 0, start.x * levels[0]!.scale, 0, 1, start.y * levels[0]!.scale, 0, 0, 1];
  let agreement = 0;
  for (const level of levels) {
    const longSide = Math.max(level.reference.width, level.reference.height);
    if (longSide > FINEST_LONG_SIDE_PX && agreement > 0) break;
    const better = refineOnLevel(level.reference, level.frame, atScale(homography, level.scale), (p) =>
      among(scalePoint(p, level.scale)),
    );
    if (better === null) return null;
    homography = atScale(better.homography, 1 / level.scale);
    agreement = better.agreement;
  }
  return { homography, agreement };
}

/** The same map for pictures `scale` times smaller. */
const atScale = ([a, b, c, d, e, f, g, h, i]: Homography, scale: number): Homography => [
  a,
  b,
  c / scale,
  d,
  e,
  f / scale,
  g * scale,
  h * scale,
  i,
];

function bestShift(reference: Plane, frame: Plane): Point {
  let best = { x: 0, y: 0 };
  let least = Infinity;
  const { width, height } = reference;
  for (let dy = -SHIFT_REACH_PX; dy <= SHIFT_REACH_PX; dy++) {
    for (let dx = -SHIFT_REACH_PX; dx <= SHIFT_REACH_PX; dx++) {
      let sum = 0;
      let count = 0;
      for (let y = Math.max(0, -dy); y < Math.min(height, height - dy); y += 2) {
        for (let x = Math.max(0, -dx); x < Math.min(width, width - dx); x += 2) {
          sum += Math.abs(reference.data[y * width + x]! - frame.data[(y + dy) * width + x + dx]!);
          count++;
        }
      }
      // among equals the smaller shift
      const cost = (sum / count) * (1 + 0.002 * Math.hypot(dx, dy));
      if (cost < least) {
        least = cost;
        best = { x: dx, y: dy };
      }
    }
  }
  return best;
}

function refineOnLevel(
  reference: Plane,
  frame: Plane,
  start: Homography,
  among: (at: Point) => boolean,
): Registration | null {
  const { width, height } = reference;
  const tilePx = Math.min(TILE_PX, Math.floor(Math.min(width, height) / 5));
  const stepPx = Math.max(tilePx, Math.floor(Math.max(width, height) / TILES_ACROSS));
  const followed = followTiles(reference, frame, { start, tilePx, stepPx, among });
  const from = followed.map((tile) => tile.from);
  const to = followed.map((tile) => tile.to);
  if (from.length < 8) return null;
  let homography = start;
  for (const scale of [8, 3, 1.2, 0.6, 0.6]) {
    const weights = from.map((p, i) => tukeyWeight(distance(applyHomography(homography, p), to[i]!) / (scale * 2)));
    if (weights.filter((w) => w > 0.1).length < 6) continue;
    homography = fitHomography(from, to, weights, Math.max(width, height)) ?? homography;
  }
  const agreeing = from.filter((p, i) => distance(applyHomography(homography, p), to[i]!) < 0.5).length;
  return { homography, agreement: agreeing / from.length };
}
