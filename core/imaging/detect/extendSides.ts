import { pointOnBentSide, type Bends } from '../geometry/bentOutline';
import { distance, type Point } from '../geometry/point';
import { isConvexQuad, type Quad } from '../geometry/quad';
import type { ColourPicture } from './colourPicture';
import type { PageMap } from './pageNetwork';
import { refineOutline, type RefinedOutline } from './refineOutline';
import { inPicture, lookAlong, NEAR_PX, SEEN_FROM, strengthOf } from './sidesSeen';
import { edgeProfile } from './edgeProfile';

/*
 * A banner printed along a page's edge ends in a stronger step than the paper does. But a page's sides end at its corners:
 * where both neighbours of a side run on beyond it, and end on a line that can be seen, the page goes on to there.
 */

/** How far apart along a side it is looked whether it runs on, px, and how many misses end it. */
const PACE_PX = 3;
const MISSES = 2;
/** A side that runs on by less has only been found too short; by more than this share of its length, it is not the page's own. */
const LEAST_PX = 8;
const MOST_SHARE = 0.16;
/** The tangent at a corner is that of this share of the side. */
const TANGENT_SHARE = 0.15;
/** What must be seen of the side further out, and how much less clear than the nearer one it may be. */
const LEAST_SEEN = 0.9;
const MOST_LOSS = 0.3;
/** By how much the network may contradict it more: beyond the paper it does by 0.3 to 0.5. */
const MOST_DOUBT = 0.2;
const REFINE_REACH = 0.007;

/** From a corner outwards: px along the tangent of a side until no step is seen across it any more; null where the picture ends before. */
function runOn(
  picture: ColourPicture,
  corner: Point,
  ux: number,
  uy: number,
  nx: number,
  ny: number,
  most: number,
): number | null {
  let [off, seen, missed] = [0, 0, 0];
  for (let d = PACE_PX; d <= most + PACE_PX; d += PACE_PX) {
    const p = { x: corner.x + ux * d + nx * off, y: corner.y + uy * d + ny * off };
    if (!inPicture(p, picture)) return null;
    const { response, towards } = edgeProfile(picture, p, nx, ny, NEAR_PX);
    let [best, at] = [0, 0];
    for (let k = 0; k < response.length; k++) {
      const strength = strengthOf(response[k]!, towards[k]!, 0); // a banner is dark
      if (strength > best) [best, at] = [strength, k - NEAR_PX];
    }
    if (best > SEEN_FROM) {
      [seen, missed] = [d, 0];
      off += at / 2;
    } else if (++missed > MISSES) break;
  }
  return seen;
}

/** Where both neighbours of side s end beyond it; null where they do not run on, or not to an end. */
function furtherCorners(picture: ColourPicture, quad: Quad, bends: Bends, s: number): readonly [Point, Point] | null {
  const ends = [(s + 3) % 4, (s + 1) % 4].map((side, which) => {
    const a = quad[side]!;
    const b = quad[(side + 1) % 4]!;
    const corner = which === 0 ? b : a;
    const before = pointOnBentSide(a, b, bends[side]!, which === 0 ? 1 - TANGENT_SHARE : TANGENT_SHARE);
    const length = distance(before, corner) || 1;
    const ux = (corner.x - before.x) / length;
    const uy = (corner.y - before.y) / length;
    const inwards = which === 0 ? 1 : -1;
    const most = MOST_SHARE * distance(a, b);
    const run = runOn(picture, corner, ux, uy, -uy * inwards, ux * inwards, most);
    return run === null || run < LEAST_PX || run > most ? null : { x: corner.x + ux * run, y: corner.y + uy * run };
  });
  const [first, second] = ends;
  return first && second ? [first, second] : null;
}

/**
 * Moves a side outwards to where its neighbours end, where both run on beyond it.
 * @param picture - pixels of its own; so are the corners of what comes back
 * @param found - the outline as found so far
 * @param fixed - sides that must stay
 * @param paleness - as for refineOutline
 * @param map - what the network says of the picture
 * @returns the outline given where no side runs on
 */
export function extendSides(
  picture: ColourPicture,
  found: RefinedOutline,
  fixed: readonly boolean[],
  paleness: number,
  map: PageMap,
): RefinedOutline {
  let best = found;
  for (let s = 0; s < 4; s++) {
    if (fixed[s] === true) continue;
    const { quad, bends } = best;
    const further = furtherCorners(picture, quad, bends, s);
    if (further === null) continue;
    const start = quad.map((p, i) => (i === s ? further[0] : i === (s + 1) % 4 ? further[1] : p)) as unknown as Quad;
    const staying = fixed.map((stays, i) => stays || i === (s + 2) % 4);
    const outline = refineOutline(
      picture,
      start,
      bends,
      REFINE_REACH * Math.max(picture.width, picture.height),
      staying,
      paleness,
      map,
    );
    if (!isConvexQuad(outline.quad)) continue;
    const before = lookAlong(picture, quad, bends, fixed, paleness, map);
    const after = lookAlong(picture, outline.quad, outline.bends, fixed, paleness, map);
    if (
      after.seen[s]! < LEAST_SEEN ||
      after.worth < before.worth - MOST_LOSS ||
      after.doubt - before.doubt > MOST_DOUBT
    )
      continue;
    best = outline;
  }
  return best;
}
