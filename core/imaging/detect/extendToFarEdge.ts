import { pointOnBentSide } from '../geometry/bentOutline';
import { distance, normalOf, type Point } from '../geometry/point';
import { isConvexQuad, type Quad } from '../geometry/quad';
import { edgeProfile } from './edgeProfile';
import { measureEdgeSupport, NEAR_PX, SEEN_FROM } from './edgeSupport';
import { refineOutline, type RefinedOutline } from './refineOutline';
import {
  aboutSide,
  edgeStrength,
  inPicture,
  NEARBY_REACH,
  type BentQuad,
  type SegmentedSearch,
  type SideSearch,
} from './sideSearch';

/*
 * A banner printed along a page's edge ends in a stronger step than the paper does. But a page's sides end at its corners:
 * where both neighbours of a side run on beyond it, and end on a line that can be seen, the page goes on to there.
 */

/** How far apart along a side it is looked whether it runs on, px. */
const PACE_PX = 3;
/** Places in a row without a step that end a run. */
const MISSES = 2;
/** A side that runs on by less has only been found too short, px. */
const MIN_RUN_PX = 8;
/** One that runs on by more than this share of its length is not the page's own. */
const MAX_RUN = 0.16;
/** The tangent at a corner is that of this share of the side. */
const TANGENT_SHARE = 0.15;
/** Share of the positions of the side further out at which a step must be seen. */
const MIN_SEEN = 0.9;
/** How much less support than the nearer outline the further one may have: a banner's edge is stronger than the paper's. */
const MAX_LOSS = 0.3;
/** By how much the network may contradict it more: beyond the paper it does by 0.3 to 0.5. */
const MAX_DISAGREEMENT = 0.2;

/**
 * From a corner outwards, along the tangent of the side that ends there: px until no step is seen across it any more.
 * @param before - a point of the side, for its tangent
 * @param inwards - 1 where the side ends in the corner, -1 where it begins there
 * @returns null where the picture ends before
 */
function runBeyond(
  picture: SideSearch['picture'],
  before: Point,
  corner: Point,
  inwards: 1 | -1,
  most: number,
): number | null {
  const normal = normalOf(before, corner);
  const [ux, uy] = [normal.ny, -normal.nx];
  const [nx, ny] = [normal.nx * inwards, normal.ny * inwards];
  let [off, seen, missed] = [0, 0, 0];
  for (let d = PACE_PX; d <= most + PACE_PX; d += PACE_PX) {
    const p = { x: corner.x + ux * d + nx * off, y: corner.y + uy * d + ny * off };
    if (!inPicture(p, picture)) return null;
    const { response, towards } = edgeProfile(picture, p, nx, ny, NEAR_PX);
    let [best, at] = [0, 0];
    for (let k = 0; k < response.length; k++) {
      const strength = edgeStrength(response[k]!, towards[k]!, 0); // a banner is dark
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
function furtherCorners(
  picture: SideSearch['picture'],
  { quad, bends }: BentQuad,
  s: number,
): readonly [Point, Point] | null {
  const ends = [(s + 3) % 4, (s + 1) % 4].map((side, which) => {
    const a = quad[side]!;
    const b = quad[(side + 1) % 4]!;
    const corner = which === 0 ? b : a;
    const before = pointOnBentSide(a, b, bends[side]!, which === 0 ? 1 - TANGENT_SHARE : TANGENT_SHARE);
    const most = MAX_RUN * distance(a, b);
    const run = runBeyond(picture, before, corner, which === 0 ? 1 : -1, most);
    if (run === null || run < MIN_RUN_PX || run > most) return null;
    const { nx, ny } = normalOf(before, corner);
    return { x: corner.x + ny * run, y: corner.y - nx * run };
  });
  const [first, second] = ends;
  return first && second ? [first, second] : null;
}

/**
 * Moves a side outwards to where its neighbours end, where both run on beyond it.
 * @param found - the outline as found so far, in pixels of the search's picture
 * @returns the outline given where no side runs on
 */
export function extendToFarEdge(search: SegmentedSearch, found: RefinedOutline): RefinedOutline {
  const { picture } = search;
  const reachPx = NEARBY_REACH * Math.max(picture.width, picture.height);
  let best = found;
  for (let s = 0; s < 4; s++) {
    if (search.fixed[s] === true) continue;
    const further = furtherCorners(picture, best, s);
    if (further === null) continue;
    const quad = best.quad.map((p, i) =>
      i === s ? further[0] : i === (s + 1) % 4 ? further[1] : p,
    ) as unknown as Quad;
    const outline = refineOutline(aboutSide(search, s), { quad, bends: best.bends }, reachPx);
    if (!isConvexQuad(outline.quad)) continue;
    const before = measureEdgeSupport(search, best);
    const after = measureEdgeSupport(search, outline);
    if (
      after.seen[s]! >= MIN_SEEN &&
      after.support >= before.support - MAX_LOSS &&
      after.disagreement - before.disagreement <= MAX_DISAGREEMENT
    )
      best = outline;
  }
  return best;
}
