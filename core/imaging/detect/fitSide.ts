import type { Bend } from '../geometry/bentOutline';
import { distance, type Point } from '../geometry/point';
import { solveLinear } from '../geometry/solveLinear';
import { tukeyWeight } from '../geometry/tukeyWeight';
import { withWorkspace, type Workspace } from '../kernels/workspace';
import { findEdgeMaxima, SAMPLES, type EdgeMaxima } from './edgeMaxima';
import { addBend, offsetAt, type SideCurve } from './sideCurve';
import type { SideSearch } from './sideSearch';

/** A reach this short needs no search for the side's course. */
const NEARBY_PX = 8;
/** Positions with a step edge below which nothing is fitted. */
const MIN_POSITIONS = 12;
/** How near an edge must be to agree with a course, as a share of the side. */
const AGREES_SHARE = 0.003;
/** But no less than this, px: the noise of an edge. */
const MIN_AGREES_PX = 0.8;
/** And no more than this, px: further off it is another edge. */
const MAX_AGREES_PX = 2;
/** A quadratic, or a line, is taken where it explains at least this share of what the quartic does. */
const COURSES = [
  { degree: 4, explains: 1 },
  { degree: 2, explains: 0.97 },
  { degree: 1, explains: 0.985 },
] as const;

/**
 * The side from a to b on the step edges nearby: the plainest of a line, a quadratic and a quartic that explains them.
 * Method: iteratively reweighted least squares (Tukey's biweight, the cut-off narrowed from step to step).
 * @param bend - the side's course as known
 * @param reachPx - how far to either side of it to look
 * @returns a curve with support 0 where too few edges are seen
 */
export function fitSide(search: SideSearch, a: Point, b: Point, bend: Bend, reachPx: number): SideCurve {
  const length = distance(a, b) || 1;
  const maxima = findEdgeMaxima(search, a, b, bend, reachPx);
  // edges are measured from the known bend; the fit is the change to it
  const curve = (powers: readonly number[], support: number): SideCurve => ({
    a,
    b,
    powers: addBend(powers, bend, length),
    support,
  });
  if (maxima.positions.length < MIN_POSITIONS) return curve([0], 0);
  // from nearby the known course is a good enough start
  const start: readonly number[] = reachPx > NEARBY_PX ? withWorkspace(bestParabola, maxima, reachPx) : [0];
  // the plainest course that explains as much as the freest one: a curve finds more to pass through than a line, true or not
  const tolerance = Math.min(MAX_AGREES_PX, Math.max(MIN_AGREES_PX, AGREES_SHARE * length));
  const courses = COURSES.map(({ degree, explains }) => {
    const fit = settle(maxima, start, degree, reachPx);
    return { fit, explains, agreed: agreement(maxima, fit, tolerance).strength };
  });
  const { fit } = courses.filter(({ explains, agreed }) => agreed >= explains * courses[0]!.agreed).at(-1)!;
  return curve(fit, agreement(maxima, fit, MAX_AGREES_PX).positions / SAMPLES);
}

/** A polynomial of a degree through the edges, from a rough course: first no freer than a parabola, then as free as it may be. */
function settle(maxima: EdgeMaxima, start: readonly number[], degree: number, reachPx: number): readonly number[] {
  let fit = degree === 1 ? start.slice(0, 2) : start;
  for (const scale of [reachPx * 0.35, reachPx * 0.2])
    fit = reweightedFit(maxima, fit, scale, Math.min(2, degree)) ?? fit;
  for (const scale of [Math.max(1.5, reachPx * 0.15), Math.max(1.5, reachPx * 0.1), 1.5, 1.2])
    fit = reweightedFit(maxima, fit, scale, degree) ?? fit;
  return fit;
}

/** How much of what is seen across the side lies on the curve: the strength of the edges, less the further off they are, and at how many positions there is one. */
function agreement(
  { positions, starts, offsets, strengths }: EdgeMaxima,
  fit: readonly number[],
  tolerance: number,
): { strength: number; positions: number } {
  let strength = 0;
  let agreeing = 0;
  for (let i = 0; i < positions.length; i++) {
    const expected = offsetAt(fit, positions[i]!);
    let most = 0;
    for (let c = starts[i]!; c < starts[i + 1]!; c++) {
      const u = (offsets[c]! - expected) / tolerance;
      if (Math.abs(u) < 1) most = Math.max(most, strengths[c]! * (1 - u * u));
    }
    strength += most;
    if (most > 0) agreeing++;
  }
  return { strength, positions: agreeing };
}

/** Steps tried over the reach, at each end. */
const STEPS_OF_REACH = 7;
/** How far off a course an edge may lie, in steps: below 1 edges between two courses are lost. */
const TOLERANCE_STEPS = 1.2;
/** How far a side may bow, as a share of the reach. */
const MAX_BOW = 0.6;
/** The step between bows, as a share of the reach. */
const BOW_STEP = 0.3;
/** What a course at the edge of the reach loses: among equals the start is as good as any other. */
const START_BONUS = 0.04;

/** The straight or evenly bowed line that most edges agree with: a small exhaustive search, so no bad start is possible. */
function bestParabola(ws: Workspace, maxima: EdgeMaxima, reachPx: number): number[] {
  let best = [0, 0, 0];
  let bestScore = -1;
  const stepPx = Math.max(1, reachPx / STEPS_OF_REACH);
  const tolerance = stepPx * TOLERANCE_STEPS;
  const looked = everySecond(maxima);
  const [xs, at, weights] = [ws.of(looked.xs).at, ws.of(looked.offsets).at, ws.of(looked.weights).at];
  for (let at0 = -reachPx; at0 <= reachPx; at0 += stepPx) {
    for (let at1 = -reachPx; at1 <= reachPx; at1 += stepPx) {
      for (let bow = -reachPx * MAX_BOW; bow <= reachPx * MAX_BOW + 1e-6; bow += Math.max(stepPx, reachPx * BOW_STEP)) {
        // offset at the ends and half way: at0, at1, and bow beyond the chord
        const middle = (at0 + at1) / 2 + bow;
        const slope = (at1 - at0) / 2;
        const score =
          ws.kernels.curveAgreement(xs, at, weights, looked.count, middle, slope, bow, tolerance) *
          (1 - (START_BONUS * (Math.abs(at0) + Math.abs(at1) + Math.abs(bow))) / reachPx);
        if (score > bestScore) {
          bestScore = score;
          best = [middle, slope, -bow];
        }
      }
    }
  }
  return best;
}

/** The maxima of every second position, enough to start from, filled up to a multiple of four by what weighs nothing. */
function everySecond({ positions, starts, offsets, strengths }: EdgeMaxima): {
  readonly xs: Float32Array;
  readonly offsets: Float32Array;
  readonly weights: Float32Array;
  readonly count: number;
} {
  const room = starts[positions.length]! + 3;
  const [xs, kept, weights] = [new Float32Array(room), new Float32Array(room), new Float32Array(room)];
  let count = 0;
  for (let i = 0; i < positions.length; i += 2)
    for (let c = starts[i]!; c < starts[i + 1]!; c++, count++) {
      xs[count] = positions[i]!;
      kept[count] = offsets[c]!;
      weights[count] = strengths[c]!;
    }
  return { xs, offsets: kept, weights, count: 4 * Math.ceil(count / 4) };
}

/** How hard powers two, three and four are pulled towards nothing: a side without enough evidence stays straight. */
const STIFFNESS = [0, 0, 0.0004, 0.004, 0.008] as const;
/** Cut-off of the biweight in scales. */
const CUT_OFF = 2.5;

/** One step of Tukey's biweight: edges further than CUT_OFF scales from the fit so far have no say. */
function reweightedFit(
  { positions, starts, offsets, strengths }: EdgeMaxima,
  from: readonly number[],
  scale: number,
  degree: number,
): number[] | null {
  const n = degree + 1;
  const reach = CUT_OFF * scale;
  // the normal equations' entries are sums over powers of x, up to twice the degree: far fewer than a product a sample
  const moments = new Float64Array(2 * degree + 1);
  const right = new Float64Array(n);
  for (let i = 0; i < positions.length; i++) {
    const x = positions[i]!;
    const expected = offsetAt(from, x);
    let weight = 0;
    let weighted = 0;
    for (let c = starts[i]!; c < starts[i + 1]!; c++) {
      const w = tukeyWeight((offsets[c]! - expected) / reach) * strengths[c]!;
      weight += w;
      weighted += w * offsets[c]!;
    }
    if (weight === 0) continue;
    for (let k = 0, power = 1; k < moments.length; k++, power *= x) {
      moments[k]! += weight * power;
      if (k < n) right[k]! += weighted * power;
    }
  }
  const weight = moments[0]!;
  if (weight === 0) return null;
  const normal = new Float64Array(n * n);
  for (let p = 0; p < n; p++) {
    for (let q = 0; q < n; q++) normal[p * n + q] = moments[p + q]!;
    normal[p * n + p]! += STIFFNESS[p]! * weight;
  }
  const fit = solveLinear(normal, right);
  return fit === null ? null : Array.from(fit);
}
