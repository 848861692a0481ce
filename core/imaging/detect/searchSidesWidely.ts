import { isConvexQuad } from '../geometry/quad';
import { candidateCourses, withCourse } from './candidateCourses';
import { measureEdgeSupport, type EdgeSupport } from './edgeSupport';
import { refineOutline, type RefinedOutline } from './refineOutline';
import { aboutSide, NEARBY_REACH, type SegmentedSearch } from './sideSearch';

/*
 * A page's own edge may be faint, where a sheet of the same tone lies under it, but it runs on without a gap, and it bends
 * as a sheet does. A side put together from a piece of it and a piece of something stronger has gaps, or bends otherwise.
 * Where that shows, other courses are looked for in a corridor too wide to be searched every time.
 */

/** A side on which a step is seen at a smaller share of its positions has a gap. */
const GAPLESS = 0.97;
/** From this residual on an outline bends unlike a sheet. */
const UNLIKE_FROM = 4.5;
/** How often a side is moved: one in its place may show where another belongs. */
const ROUNDS = 2;
/** Minimum gain in support. */
const MIN_GAIN = 0.06;
/** By how much more the network may contradict the new outline. */
const MAX_DISAGREEMENT = 0.12;
/** By how much more where the old outline is no sheet and the new one is. */
const MAX_DISAGREEMENT_OF_SHEET = 0.25;

/** An outline and what is seen of it. */
interface Supported {
  readonly outline: RefinedOutline;
  readonly seen: EdgeSupport;
}

const hasGap = ({ seen, residual }: EdgeSupport, s: number): boolean =>
  seen[s % 4]! < GAPLESS || residual > UNLIKE_FROM;

/** Whether an outline may take the place of another that was there before the round. */
function isBetter(seen: EdgeSupport, before: EdgeSupport): boolean {
  const allowed =
    before.residual > UNLIKE_FROM && seen.residual < UNLIKE_FROM ? MAX_DISAGREEMENT_OF_SHEET : MAX_DISAGREEMENT;
  return seen.support > before.support + MIN_GAIN && seen.disagreement - before.disagreement <= allowed;
}

/** The outlines that other courses of side s make. */
function outlinesBySide(search: SegmentedSearch, { outline }: Supported, s: number): Supported[] {
  const { width, height } = search.picture;
  const { quad } = outline;
  return candidateCourses(search, quad[s]!, quad[(s + 1) % 4]!).flatMap((course) => {
    const start = withCourse(outline, s, course);
    if (!isConvexQuad(start.quad)) return [];
    const refined = refineOutline(aboutSide(search, s), start, NEARBY_REACH * Math.max(width, height));
    return isConvexQuad(refined.quad) ? [{ outline: refined, seen: measureEdgeSupport(search, refined) }] : [];
  });
}

/**
 * Looks again at sides with gaps, and at outlines that bend as no sheet does: whether a course further away than
 * refineOutline reaches is seen more wholly or makes a sheet, and the network does not contradict it.
 * Method: along every side the share of positions with a step edge is counted; where it falls short, or the developability
 * residual is high, other courses are tried (candidateCourses.ts) and refined, and the outline that most steps bear out, less
 * what the residual says against it, is kept.
 * Assumes that only one or two sides are wrong; a corner further off than the corridor is not found.
 * @param found - the outline as refineOutline left it, in pixels of the search's picture
 * @returns the better outline, or the one given; and the least share of a side's positions at which a step is seen, 0 to 1
 */
export function searchSidesWidely(
  search: SegmentedSearch,
  found: RefinedOutline,
): { outline: RefinedOutline; leastSeen: number } {
  let best: Supported = { outline: found, seen: measureEdgeSupport(search, found) };
  for (let round = 0; round < ROUNDS; round++) {
    const before = best;
    for (let s = 0; s < 4; s++) {
      // a corner in the wrong place opens a gap in both its sides, and either may be the one to move
      if (search.fixed[s] === true || ![s, s + 1, s + 3].some((side) => hasGap(before.seen, side))) continue;
      for (const other of outlinesBySide(search, before, s))
        if (isBetter(other.seen, before.seen) && other.seen.support > best.seen.support) best = other;
    }
    if (best === before) break;
  }
  return { outline: best.outline, leastSeen: Math.min(...best.seen.seen) };
}
