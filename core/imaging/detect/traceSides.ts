import { bendAt, pointOnBentSide, SIDE_DETAIL, type Bend, type Bends } from '../geometry/bentOutline';
import { distance, lerpPoint, normalOf, type Point } from '../geometry/point';
import { createNormalEquations } from '../geometry/normalEquations';
import { peakOffset } from '../geometry/peakOffset';
import { isConvexQuad, type Quad } from '../geometry/quad';
import { tukeyWeight } from '../geometry/tukeyWeight';
import { edgeProfile } from './edgeProfile';
import { measureEdgeSupport } from './edgeSupport';
import { edgeProbability } from './pageNetwork';
import { edgeStrength, inPicture, type BentQuad, type SegmentedSearch, type SideSearch } from './sideSearch';

/*
 * Sides with waves and folds, which no quartic follows. Across each side step edges are looked for again, at many positions, and
 * the course that runs along the strongest of them without jumps is followed (Viterbi 1967). Through it goes a line with a bend
 * at each of SIDE_DETAIL places, which the noise of single positions does not move.
 * Assumes that refineOutline's side is near: what is further off than REACH is another edge.
 */

/** Positions looked at along a side. */
const POSITIONS = 96;
/** How far to either side of the course known, as a share of the picture's long side: 7 mm of A4. */
const REACH = 0.025;
/** A response counts for less beside a larger one this near, px: strong edges are all as strong, and blur makes them broad. */
const PEAK_PX = 3;
/** How far the course may move from one position to the next, px: a fold of 30 degrees. */
const MAX_STEP_PX = 2;
/** What such a px costs, beside the strength of an edge: lower lets the course jump, higher cuts folds short. */
const STEP_COST = 0.06;
/** What an edge counts where the network sees none. */
const UNSEGMENTED = 0.6;
/** Strength below which there is no edge at a position. */
const MIN_STRENGTH = 0.3;
/** Share of the positions that must have one. */
const MIN_SEEN = 0.85;
/** How hard places are pulled onto the line between their neighbours: lower follows noise, higher rounds folds. */
const STIFFNESS = 0.5;
/** Cut-off of the robust fit, px. */
const CUT_OFF_PX = 2;
/** How often it is done. */
const ROUNDS = 3;
/** Weight of an end that is held. */
const HELD = 1e4;
/** A side that leaves the quartic by less than this share of its length is as well told by that. */
const MIN_DIFFERENCE = 0.0015;

/** How far a corner may move for the noise of both its sides, as a share of the picture's long side. */
const FREE_CORNER = 0.003;
/** Positions looked at along the part of a side next to a corner. */
const END_POSITIONS = 12;
/** How long that part is, as a share of the side: 36 mm of A4's long side. */
const END_SHARE = 0.12;
/** How far from a course its edges may lie there, px. */
const NEAR_COURSE_PX = 2;
/** Steps may be so much weaker where a corner moves to. On 80 true moves they were not weaker at all, on false ones by 0.07 and more. */
const WEAKER = 0.03;
/** And the network may contradict the outline by so much more: its noise. On true moves it contradicts it less. */
const MORE_CONTRADICTED = 0.002;
/** How often sides are followed: each time as far as REACH. */
const PASSES = 3;

/** A side followed: how far inwards of its course as known it lies, px, at its ends and at SIDE_DETAIL places between. */
type Trace = Float64Array;

/** The edge at each position, px inwards of the course known, and how strong it is. */
interface Followed {
  readonly offsets: Float64Array;
  readonly strengths: Float64Array;
}

function followEdge(search: SegmentedSearch, a: Point, b: Point, bend: Bend): Followed {
  const { picture, polarity, segmentation } = search;
  const reach = Math.round(REACH * Math.max(picture.width, picture.height));
  const breadth = 2 * reach + 1;
  const { nx, ny, length } = normalOf(a, b);
  const strengths = new Float64Array(POSITIONS * breadth);
  const responses = new Float32Array(POSITIONS * breadth);
  for (let k = 0; k < POSITIONS; k++) {
    const t = (k + 0.5) / POSITIONS;
    const known = -bendAt(bend, t) * length;
    const on = lerpPoint(a, b, t);
    const p = { x: on.x + nx * known, y: on.y + ny * known };
    if (!inPicture(p, picture)) continue;
    const { response, towards } = edgeProfile(picture, p, nx, ny, reach);
    responses.set(response, k * breadth);
    for (let o = 0; o < breadth; o++) {
      if (response[o] === 0) continue;
      let peak = 0;
      for (let n = Math.max(0, o - PEAK_PX); n <= Math.min(breadth - 1, o + PEAK_PX); n++)
        peak = Math.max(peak, response[n]!);
      const at = { x: p.x + nx * (o - reach), y: p.y + ny * (o - reach) };
      const seen = UNSEGMENTED + (1 - UNSEGMENTED) * edgeProbability(segmentation, at, picture);
      const sharp = (response[o]! / peak) ** 2;
      strengths[k * breadth + o] = edgeStrength(response[o]!, towards[o]!, polarity) * seen * sharp;
    }
  }
  const path = strongestPath(strengths, breadth);
  const offsets = new Float64Array(POSITIONS);
  const weights = new Float64Array(POSITIONS);
  for (let k = 0; k < POSITIONS; k++) {
    const o = path[k]!;
    const at = k * breadth + o;
    weights[k] = strengths[at]!;
    const inner = o > 0 && o < breadth - 1;
    offsets[k] = o - reach + (inner ? peakOffset(responses[at - 1]!, responses[at]!, responses[at + 1]!) : 0);
  }
  return { offsets, strengths: weights };
}

/** For each position where the path along the strongest edges runs. */
function strongestPath(strengths: Float64Array, breadth: number): Int32Array {
  const from = new Int8Array(POSITIONS * breadth);
  let best = strengths.slice(0, breadth);
  for (let k = 1; k < POSITIONS; k++) {
    const next = new Float64Array(breadth);
    for (let o = 0; o < breadth; o++) {
      let most = -Infinity;
      for (let step = -MAX_STEP_PX; step <= MAX_STEP_PX; step++) {
        const before = o + step;
        if (before < 0 || before >= breadth) continue;
        const sum = best[before]! - STEP_COST * Math.abs(step);
        if (sum <= most) continue;
        most = sum;
        from[k * breadth + o] = step;
      }
      next[o] = most + strengths[k * breadth + o]!;
    }
    best = next;
  }
  const path = new Int32Array(POSITIONS);
  path[POSITIONS - 1] = best.indexOf(Math.max(...best));
  for (let k = POSITIONS - 1; k > 0; k--) path[k - 1] = path[k]! + from[k * breadth + path[k]!]!;
  return path;
}

/** The line through what was followed; null where too little was. Its ends may be held where they are. */
function traceOf({ offsets, strengths }: Followed, firstPinned: boolean, lastPinned: boolean): Trace | null {
  let seen = 0;
  for (const strength of strengths) if (strength >= MIN_STRENGTH) seen++;
  if (seen < MIN_SEEN * POSITIONS) return null;
  const places = SIDE_DETAIL + 2;
  let fit: Float64Array | null = null;
  for (let round = 0; round < ROUNDS; round++) {
    const equations = createNormalEquations(places);
    for (let k = 0; k < POSITIONS; k++) {
      const at = ((k + 0.5) / POSITIONS) * (places - 1);
      const low = Math.floor(at);
      const row = new Float64Array(places);
      row[low] = 1 - (at - low);
      row[low + 1] = at - low;
      const expected: number = fit === null ? offsets[k]! : fit[low]! * row[low] + fit[low + 1]! * row[low + 1]!;
      equations.add(row, offsets[k]!, strengths[k]! * tukeyWeight((offsets[k]! - expected) / CUT_OFF_PX));
    }
    for (let p = 1; p < places - 1; p++) {
      const row = new Float64Array(places);
      row.set([-1, 2, -1], p - 1);
      equations.add(row, 0, STIFFNESS);
    }
    const held = (p: number): boolean => (p === 0 && firstPinned) || (p === places - 1 && lastPinned);
    fit = equations.solve((p) => (held(p) ? HELD : 1e-6));
    if (fit === null) return null;
  }
  return fit;
}

/** Where two traced sides that meet in a corner put it. */
function moveCorner(
  corner: Point,
  before: readonly [Point, Point, number],
  after: readonly [Point, Point, number],
): Point {
  const p = normalOf(before[0], before[1]);
  const q = normalOf(after[0], after[1]);
  const det = p.nx * q.ny - p.ny * q.nx;
  return {
    x: corner.x + (before[2] * q.ny - after[2] * p.ny) / det,
    y: corner.y + (after[2] * p.nx - before[2] * q.nx) / det,
  };
}

/** Which corners stay where they are. */
type Pinned = readonly boolean[];

/** An outline with each followed side traced, where that says more than its quartic does; null where none does. */
function outlineAlong(outline: BentQuad, followed: readonly (Followed | null)[], pinned: Pinned): BentQuad | null {
  const { quad, bends } = outline;
  const ends = (s: number): readonly [Point, Point] => [quad[s]!, quad[(s + 1) % 4]!];
  const traces = followed.map((side, s) => {
    const trace = side === null ? null : traceOf(side, pinned[s]!, pinned[(s + 1) % 4]!);
    return trace !== null && leavesQuartic(trace, normalOf(...ends(s)).length) ? trace : null;
  });
  if (traces.every((trace) => trace === null)) return null;
  const moved = quad.map((corner, c) => {
    const s = (c + 3) % 4;
    return moveCorner(corner, [...ends(s), traces[s]?.at(-1) ?? 0], [...ends(c), traces[c]?.[0] ?? 0]);
  }) as unknown as Quad;
  const detailed = bends.map((bend, s) => {
    const trace = traces[s];
    if (trace === null || trace === undefined) return bend;
    const { length } = normalOf(...ends(s));
    return Array.from({ length: SIDE_DETAIL }, (_, k) => {
      const t = (k + 1) / (SIDE_DETAIL + 1);
      return bendAt(bend, t) - offChord(trace, k + 1) / length;
    });
  }) as unknown as Bends;
  return isConvexQuad(moved) ? { quad: moved, bends: detailed } : null;
}

/** How far a trace lies from the straight line between its own ends, px inwards, at its k-th place. */
function offChord(trace: Trace, k: number): number {
  const t = k / (SIDE_DETAIL + 1);
  return trace[k]! - trace[0]! * (1 - t) - trace.at(-1)! * t;
}

const leavesQuartic = (trace: Trace, length: number): boolean =>
  trace.some((_, k) => Math.abs(offChord(trace, k)) > MIN_DIFFERENCE * length);

/** How strong the steps are along the part of side `s` next to corner `c`, on average. */
function strengthBeside({ picture, polarity }: SideSearch, { quad, bends }: BentQuad, s: number, c: number): number {
  let sum = 0;
  let positions = 0;
  for (let i = 0; i < END_POSITIONS; i++) {
    const along = ((i + 0.5) / END_POSITIONS) * END_SHARE;
    const t = s === c ? along : 1 - along;
    const [p, next] = [t, t + END_SHARE / END_POSITIONS].map((at) =>
      pointOnBentSide(quad[s]!, quad[(s + 1) % 4]!, bends[s]!, at),
    ) as [Point, Point];
    if (!inPicture(p, picture)) continue;
    const { nx, ny } = normalOf(p, next);
    const { response, towards } = edgeProfile(picture, p, nx, ny, NEAR_COURSE_PX);
    sum += response.reduce((most, each, k) => Math.max(most, edgeStrength(each, towards[k]!, polarity)), 0);
    positions++;
  }
  return positions === 0 ? 0 : sum / positions;
}

/** Whether the steps beside a corner are as strong in one outline as in another. */
const asStrongBeside = (search: SideSearch, c: number, moved: BentQuad, before: BentQuad): boolean =>
  [(c + 3) % 4, c].every((s) => strengthBeside(search, moved, s, c) >= strengthBeside(search, before, s, c) - WEAKER);

/** Follows the sides once; the outline itself where no side leaves its course. */
function traceOnce(search: SegmentedSearch, outline: BentQuad): { outline: BentQuad; farMoved: boolean } {
  const { quad, bends } = outline;
  const { width, height } = search.picture;
  const followed = bends.map((bend, s) =>
    search.fixed[s] === true ? null : followEdge(search, quad[s]!, quad[(s + 1) % 4]!, bend),
  );
  const free = outlineAlong(outline, followed, [false, false, false, false]);
  if (free === null) return { outline, farMoved: false };
  const far = free.quad.map((corner, c) => distance(corner, quad[c]!) > FREE_CORNER * Math.max(width, height));
  const contradicted = (each: BentQuad): number => measureEdgeSupport(search, each).disagreement;
  const borneOut = far.includes(true) && contradicted(free) <= contradicted(outline) + MORE_CONTRADICTED;
  const pinned = far.map((moves, c) => moves && !(borneOut && asStrongBeside(search, c, free, outline)));
  const traced = pinned.includes(true) ? (outlineAlong(outline, followed, pinned) ?? outline) : free;
  return { outline: traced, farMoved: far.some((moves, c) => moves && !pinned[c]!) };
}

/**
 * Follows the sides of an outline in detail. A corner moves far only where both its sides show steps as strong there and the network
 * bears that out: a course may end on what lies beside the page's corner.
 * @param outline - as located, in pixels of the search's picture
 * @returns the outline with SIDE_DETAIL offsets for each side that waves or folds, or the one given where none does
 */
export function traceSides(search: SegmentedSearch, outline: BentQuad): BentQuad {
  let traced = outline;
  for (let pass = 0; pass < PASSES; pass++) {
    const next = traceOnce(search, traced);
    traced = next.outline;
    if (!next.farMoved) break;
  }
  return traced;
}
