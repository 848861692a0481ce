import type { Bend, Bends } from '../geometry/bentOutline';
import { distance, lerpPoint, type Point } from '../geometry/point';
import { isConvexQuad, type Quad } from '../geometry/quad';
import type { ColourPicture } from './colourPicture';
import type { PageMap } from './pageNetwork';
import { refineOutline, type RefinedOutline } from './refineOutline';
import { inPicture, lookAlong, NEAR_PX, PLACES, strengthOf, type SidesSeen } from './sidesSeen';
import { edgeProfile } from './edgeProfile';

/*
 * A page's own edge may be faint, where a sheet of the same tone lies under it, but it runs on without a gap, and it bends
 * as a sheet does. A side put together from a piece of it and a piece of something stronger has gaps, or bends otherwise.
 * Where that shows, other courses are looked for in a corridor too wide to be searched every time.
 */

/** A side on which a step is seen at a smaller share of its places has a gap. */
const GAPLESS = 0.97;
/** How far to either side other courses may end, as a share of the picture's long side, and bow, as a share of their length. */
const CORRIDOR = 0.055;
const MOST_BOW = 0.11;
const COURSE_STEP_PX = 4;
const BOW_STEPS = 12;
/** How often a side is moved: one in its place may show where another belongs. */
const ROUNDS = 2;
/** Courses tried for a side, and by how much they must differ, px summed over ends and middle. */
const COURSES_TRIED = 3;
const DIFFERS_PX = 24;
/** What a crest counts at NEAR_PX from a course. */
const NEAR_COUNTS = 0.6;
const REFINE_REACH = 0.007;
/** From here on an outline bends unlike a sheet. */
const UNLIKE_FROM = 4.5;
/** By how much the worth of the sides must grow, and by how much the network may contradict them more. */
const LEAST_GAIN = 0.06;
const MOST_DOUBT = 0.12;
/** And where what is seen is no sheet, and the other may be one. */
const MOST_DOUBT_OF_SHEET = 0.25;

/** A side as it might run: how far its ends lie from the chord's, px inwards, and its bow between them. */
interface Course {
  readonly start: number;
  readonly end: number;
  readonly bow: number;
}

const differ = (p: Course, q: Course): number =>
  Math.abs(p.start - q.start) +
  Math.abs(p.end - q.end) +
  2 * Math.abs((p.start + p.end - q.start - q.end) / 2 + p.bow - q.bow);

/** The courses about a chord on which most steps are seen, best first: a small exhaustive search. */
function coursesAbout(picture: ColourPicture, a: Point, b: Point, paleness: number): Course[] {
  const reach = Math.round(CORRIDOR * Math.max(picture.width, picture.height));
  const length = distance(a, b) || 1;
  const nx = -(b.y - a.y) / length;
  const ny = (b.x - a.x) / length;
  const mostBow = MOST_BOW * length;
  const span = Math.min(2 * reach, Math.round(reach + mostBow));
  const breadth = 2 * span + 1;
  // for every place along the chord and every px across it, how strong the crest there or nearby is
  const crests = new Float32Array(PLACES * breadth);
  for (let i = 0; i < PLACES; i++) {
    const p = lerpPoint(a, b, shareOf(i));
    const { response, towards } = edgeProfile(picture, p, nx, ny, span);
    for (let k = 1; k < breadth - 1; k++) {
      const m = response[k]!;
      if (
        m < response[k - 1]! ||
        m <= response[k + 1]! ||
        !inPicture({ x: p.x + nx * (k - span), y: p.y + ny * (k - span) }, picture)
      )
        continue;
      const strength = Math.min(1, strengthOf(m, towards[k]!, paleness));
      for (let at = Math.max(0, k - NEAR_PX); at <= Math.min(breadth - 1, k + NEAR_PX); at++) {
        const counts = strength * (1 - ((1 - NEAR_COUNTS) * Math.abs(at - k)) / NEAR_PX);
        crests[i * breadth + at] = Math.max(crests[i * breadth + at]!, counts);
      }
    }
  }
  const ends = evenly(reach, COURSE_STEP_PX);
  const bows = evenly(mostBow, Math.max(COURSE_STEP_PX, mostBow / BOW_STEPS));
  const arch = Float64Array.from({ length: PLACES }, (_, i) => 4 * shareOf(i) * (1 - shareOf(i)));
  const chord = new Float64Array(PLACES);
  const scores = new Float32Array(ends.length ** 2 * bows.length);
  let at = 0;
  for (const start of ends) {
    for (const end of ends) {
      for (let i = 0; i < PLACES; i++) chord[i] = start + (end - start) * shareOf(i) + span + 0.5;
      for (const bow of bows) {
        let score = 0;
        for (let i = 0; i < PLACES; i++) {
          const across = chord[i]! + bow * arch[i]!;
          if (across >= 0 && across < breadth) score += crests[i * breadth + (across | 0)]!;
        }
        scores[at++] = score;
      }
    }
  }
  const courseAt = (k: number): Course => {
    const pair = Math.floor(k / bows.length);
    return {
      start: ends[Math.floor(pair / ends.length)]!,
      end: ends[pair % ends.length]!,
      bow: bows[k % bows.length]!,
    };
  };
  const kept: Course[] = [];
  // a few looks for the best are quicker than sorting thousands
  for (let look = 0; look < COURSES_TRIED; look++) {
    let best: Course | null = null;
    let most = -1;
    for (let k = 0; k < scores.length; k++) {
      if (scores[k]! <= most) continue;
      const course = courseAt(k);
      if (kept.some((other) => differ(course, other) < DIFFERS_PX)) continue;
      best = course;
      most = scores[k]!;
    }
    if (best !== null) kept.push(best);
  }
  return kept;
}

/** From -reach to reach in steps of a size. */
const evenly = (reach: number, step: number): number[] =>
  Array.from({ length: Math.floor((2 * reach) / step + 1e-9) + 1 }, (_, k) => k * step - reach);

/** Where along the chord the i-th place is looked at. */
const shareOf = (i: number): number => (i + 0.5) / PLACES;

/** The outline with side s on another course: its ends slide along its neighbours. */
function withCourse(quad: Quad, bends: Bends, s: number, { start, end, bow }: Course): { quad: Quad; bends: Bends } {
  const a = quad[s]!;
  const b = quad[(s + 1) % 4]!;
  const length = distance(a, b) || 1;
  const slide = (p: Point, along: Point, by: number): Point => {
    const across = ((along.x - p.x) * -(b.y - a.y) + (along.y - p.y) * (b.x - a.x)) / length;
    return lerpPoint(p, along, by / across);
  };
  const from = slide(a, quad[(s + 3) % 4]!, start);
  const to = slide(b, quad[(s + 2) % 4]!, end);
  const share = -bow / (distance(from, to) || 1);
  const bend: Bend = [0.75 * share, share, 0.75 * share];
  return {
    quad: quad.map((p, i) => (i === s ? from : i === (s + 1) % 4 ? to : p)) as unknown as Quad,
    bends: bends.map((old, i) => (i === s ? bend : old)) as unknown as Bends,
  };
}

/**
 * Looks again at sides with gaps, and at outlines that bend as no sheet does: whether a course further away than
 * refineOutline reaches is seen more wholly or makes a sheet, and the network does not contradict it.
 * Method: along every side the share of places with a step edge is counted; where it falls short, or sheetDoubt is high, end
 * points and bow of a parabola are searched exhaustively over the crests in a corridor, the best few refined, and the outline
 * that most steps bear out, less what sheetDoubt says against it, is kept.
 * Assumes that only one or two sides are wrong; a corner further off than the corridor is not found.
 * @param picture - pixels of its own; so are the corners of what comes back
 * @param found - the outline as refineOutline left it
 * @param fixed - sides that must stay
 * @param paleness - as for refineOutline
 * @param map - what the network says of the picture
 * @returns the better outline, or the one given; and the least share of a side's places at which a step is seen, 0 to 1
 */
export function reconsiderSides(
  picture: ColourPicture,
  found: RefinedOutline,
  fixed: readonly boolean[],
  paleness: number,
  map: PageMap,
): { outline: RefinedOutline; leastSeen: number } {
  const longSide = Math.max(picture.width, picture.height);
  const gapIn = ({ seen, unlike }: SidesSeen, s: number): boolean => seen[s % 4]! < GAPLESS || unlike > UNLIKE_FROM;
  let best = { outline: found, seen: lookAlong(picture, found.quad, found.bends, fixed, paleness, map) };
  for (let round = 0; round < ROUNDS; round++) {
    const before = best;
    for (let s = 0; s < 4; s++) {
      // a corner in the wrong place opens a gap in both its sides, and either may be the one to move
      if (fixed[s] === true || ![s, s + 1, s + 3].some((side) => gapIn(before.seen, side))) continue;
      const { quad, bends } = before.outline;
      // the side opposite does not feel the change
      const staying = fixed.map((stays, i) => stays || i === (s + 2) % 4);
      for (const course of coursesAbout(picture, quad[s]!, quad[(s + 1) % 4]!, paleness)) {
        const start = withCourse(quad, bends, s, course);
        if (!isConvexQuad(start.quad)) continue;
        const outline = refineOutline(
          picture,
          start.quad,
          start.bends,
          REFINE_REACH * longSide,
          staying,
          paleness,
          map,
        );
        if (!isConvexQuad(outline.quad)) continue;
        const seen = lookAlong(picture, outline.quad, outline.bends, fixed, paleness, map);
        const mostDoubt =
          before.seen.unlike > UNLIKE_FROM && seen.unlike < UNLIKE_FROM ? MOST_DOUBT_OF_SHEET : MOST_DOUBT;
        if (
          seen.worth <= Math.max(before.seen.worth + LEAST_GAIN, best.seen.worth) ||
          seen.doubt - before.seen.doubt > mostDoubt
        )
          continue;
        best = { outline, seen };
      }
    }
    if (best === before) break;
  }
  return { outline: best.outline, leastSeen: Math.min(...best.seen.seen) };
}
