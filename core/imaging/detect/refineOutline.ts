import { bendAt, type Bend, type Bends } from '../geometry/bentOutline';
import { distance, lerpPoint, type Point } from '../geometry/point';
import type { Quad } from '../geometry/quad';
import { solveLinear } from '../geometry/solveLinear';
import type { Address } from '../kernels/kernels';
import { withWorkspace } from '../kernels/workspace';
import type { ColourPicture } from './colourPicture';
import { edgeAt, type PageMap } from './pageNetwork';
import { edgeProfile } from './edgeProfile';

/** One side as a gentle curve over the chord a→b: a polynomial of the fourth degree at most. */
interface SideCurve {
  readonly a: Point;
  readonly b: Point;
  /** Offset from the chord in px, to the right of travel (inwards), in powers of 2t - 1 for the share t of the chord. */
  readonly powers: readonly number[];
  /** Share of the samples that agree with the curve. */
  readonly support: number;
}

export interface RefinedOutline {
  readonly quad: Quad;
  readonly bends: Bends;
  /** Share of edge samples that lie on the fitted sides, weakest side. */
  readonly leastSupport: number;
}

const SAMPLES = 64;
/** A reach this short needs no search for the side's course. */
const NEARBY_PX = 8;

/**
 * Moves each side onto the strongest nearby step edge, to a fraction of a pixel, and lets it bend.
 * Method: profiles across the side are correlated with a step; the crest is found to sub-pixel by a parabola; a
 * polynomial is fitted through the crests by iteratively reweighted least squares (Tukey's biweight), so thumbs, pens and
 * printed rules that hold a minority of the samples fall out; of a line, a quadratic and a quartic the plainest that
 * explains the crests is taken. Neighbouring curves are then cut with each other.
 * @param picture - to refine in, pixels of its own
 * @param start - outline in those pixels
 * @param reachPx - how far to either side to look
 * @param fixed - sides that must stay as they are
 * @param paleness - how much paler than its surroundings the sheet is, -1 to 1: steps the other way count for less
 * @param map - what the network says of the picture, or null to do without: steps where it sees the page's edge count for more
 */
export function refineOutline(
  picture: ColourPicture,
  start: Quad,
  bends: Bends,
  reachPx: number,
  fixed: readonly boolean[],
  paleness = 0,
  map: PageMap | null = null,
): RefinedOutline {
  const curves = [0, 1, 2, 3].map((s) => {
    const a = start[s]!;
    const b = start[(s + 1) % 4]!;
    return fixed[s] === true
      ? { a, b, powers: addBend([0], bends[s]!, distance(a, b)), support: 1 }
      : fitSide(picture, a, b, bends[s]!, reachPx, paleness, map);
  });
  const quad = [0, 1, 2, 3].map((s) => cutCurves(curves[(s + 3) % 4]!, curves[s]!, start[s]!)) as unknown as Quad;
  const found = curves.map((curve, s) => bendOf(curve, quad[s]!, quad[(s + 1) % 4]!)) as unknown as Bends;
  return { quad, bends: found, leastSupport: Math.min(...curves.map((c) => c.support)) };
}

/** @param x - 2t - 1 for the share t of the chord */
function offsetAt(powers: readonly number[], x: number): number {
  let sum = 0;
  for (let k = powers.length - 1; k >= 0; k--) sum = sum * x + powers[k]!;
  return sum;
}

const pointOn = ({ a, b, powers }: SideCurve, t: number): Point => {
  const length = distance(a, b) || 1;
  const p = lerpPoint(a, b, t);
  const o = offsetAt(powers, 2 * t - 1);
  return { x: p.x - ((b.y - a.y) / length) * o, y: p.y + ((b.x - a.x) / length) * o };
};

/** How the curve leaves the chord between its two corners. */
function bendOf(curve: SideCurve, from: Point, to: Point): Bend {
  const length = distance(from, to) || 1;
  const along = (p: Point): number =>
    ((p.x - curve.a.x) * (curve.b.x - curve.a.x) + (p.y - curve.a.y) * (curve.b.y - curve.a.y)) /
    (distance(curve.a, curve.b) ** 2 || 1);
  const t0 = along(from);
  const t1 = along(to);
  return [0.25, 0.5, 0.75].map((q) => {
    const p = pointOn(curve, t0 + (t1 - t0) * q);
    return ((p.x - from.x) * (to.y - from.y) - (p.y - from.y) * (to.x - from.x)) / (length * length);
  }) as unknown as Bend;
}

/** The crests seen across a side, place after place. */
interface Crests {
  /** Places along the side: shares of the chord as 2t - 1, and the first crest of each; one more start than places. */
  readonly places: number[];
  readonly starts: number[];
  /** Of each crest: its distance from the chord in px, and how much it counts. */
  readonly offsets: number[];
  readonly strengths: number[];
}

function fitSide(
  picture: ColourPicture,
  a: Point,
  b: Point,
  bend: Bend,
  reachPx: number,
  paleness: number,
  map: PageMap | null,
): SideCurve {
  const length = distance(a, b) || 1;
  const nx = -(b.y - a.y) / length;
  const ny = (b.x - a.x) / length;
  const crests: Crests = { places: [], starts: [0], offsets: [], strengths: [] };
  const margin = Math.min(0.12, (reachPx * 0.8) / length);
  for (let k = 0; k < SAMPLES; k++) {
    const t = margin + ((1 - 2 * margin) * (k + 0.5)) / SAMPLES;
    const known = -bendAt(bend, t) * length;
    const p = lerpPoint(a, b, t);
    const q = { x: p.x + nx * known, y: p.y + ny * known };
    if (q.x < 2 || q.y < 2 || q.x > picture.width - 2 || q.y > picture.height - 2) continue;
    addCrestsAcross(crests, 2 * t - 1, picture, q, nx, ny, reachPx, paleness, map);
  }
  // crests are measured from the known bend; the fit is the change to it
  const curve = (powers: readonly number[], support: number): SideCurve => ({
    a,
    b,
    powers: addBend(powers, bend, length),
    support,
  });
  if (crests.places.length < 12) return curve([0], 0);
  // from nearby the known course is a good enough start
  const start: readonly number[] = reachPx > NEARBY_PX ? bestStraightFit(crests, reachPx) : [0];
  const settle = (degree: number): readonly number[] => {
    let fit = degree === 1 ? start.slice(0, 2) : start;
    for (const scale of [reachPx * 0.35, reachPx * 0.2])
      fit = reweightedFit(crests, fit, scale, Math.min(2, degree)) ?? fit;
    for (const scale of [Math.max(1.5, reachPx * 0.15), Math.max(1.5, reachPx * 0.1), 1.5, 1.2])
      fit = reweightedFit(crests, fit, scale, degree) ?? fit;
    return fit;
  };
  // the plainest course that explains as much as the freest one: a curve finds more to pass through than a line, true or not
  const tolerance = Math.min(AGREES_MOST_PX, Math.max(AGREES_LEAST_PX, AGREES_SHARE * length));
  const courses = COURSES.map(({ degree, explains }) => {
    const fit = settle(degree);
    return { fit, explains, agreed: agreement(crests, fit, tolerance).strength };
  });
  const { fit } = courses.filter(({ explains, agreed }) => agreed >= explains * courses[0]!.agreed).at(-1)!;
  return curve(fit, agreement(crests, fit, AGREES_MOST_PX).places / SAMPLES);
}

/** How near a crest must be to agree with a course, as a share of the side, within limits in px. */
const AGREES_SHARE = 0.003;
const AGREES_LEAST_PX = 0.8;
const AGREES_MOST_PX = 2;
/** A quadratic, or a line, is taken where it explains at least this share of what the quartic does. */
const COURSES = [
  { degree: 4, explains: 1 },
  { degree: 2, explains: 0.97 },
  { degree: 1, explains: 0.985 },
] as const;

/** How much of what is seen across the side lies on the curve: the strength of the crests, less the further off they are, and at how many places there is one. */
function agreement(
  { places, starts, offsets, strengths }: Crests,
  fit: readonly number[],
  tolerance: number,
): { strength: number; places: number } {
  let strength = 0;
  let agreeing = 0;
  for (let i = 0; i < places.length; i++) {
    const expected = offsetAt(fit, places[i]!);
    let most = 0;
    for (let c = starts[i]!; c < starts[i + 1]!; c++) {
      const u = (offsets[c]! - expected) / tolerance;
      if (Math.abs(u) < 1) most = Math.max(most, strengths[c]! * (1 - u * u));
    }
    strength += most;
    if (most > 0) agreeing++;
  }
  return { strength, places: agreeing };
}

/** The polynomial plus the bend it was measured from (a bend is a quartic too). */
function addBend(powers: readonly number[], bend: Bend, length: number): number[] {
  const out = [0, 1, 2, 3, 4].map((k) => powers[k] ?? 0);
  // a quartic that vanishes at both ends: -(1 - x²)(e0 + e1 x + e2 x²) inwards, from its values at x = -1/2, 0, 1/2
  const e0 = bend[1];
  const sum = (bend[0] + bend[2]) / 2 / 0.75;
  const e1 = (bend[2] - bend[0]) / 0.75;
  const e2 = (sum - e0) * 4;
  const bent = [e0, e1, e2 - e0, -e1, -e2];
  return out.map((c, k) => c - bent[k]! * length);
}

/** What a step counts where the network sees no edge of the page, beside one where it is sure of it. */
const UNMAPPED = 0.5;

/** How much the direction of a step counts beside its strength. */
export const POLARITY_SAY = 0.6;

const MOST_CRESTS = 3;

/** Adds the strongest few step edges on the profile through p along the normal, if there is any. */
function addCrestsAcross(
  { places, starts, offsets, strengths }: Crests,
  x: number,
  picture: ColourPicture,
  p: Point,
  nx: number,
  ny: number,
  reachPx: number,
  paleness: number,
  map: PageMap | null,
): void {
  const reach = Math.ceil(reachPx);
  const { response, towards } = edgeProfile(picture, p, nx, ny, reach);
  const first = offsets.length;
  for (let k = 1; k < response.length - 1; k++) {
    const m = response[k]!;
    if (m < 1.5 || m < response[k - 1]! || m <= response[k + 1]!) continue;
    const curve = response[k - 1]! - 2 * m + response[k + 1]!;
    const shift = curve < 0 ? (0.5 * (response[k - 1]! - response[k + 1]!)) / curve : 0;
    // the normal points inwards: a step up is the way a pale sheet's edge goes, a step down a printed band's
    const offset = k - reach + shift;
    const mapped =
      map === null
        ? 1
        : UNMAPPED + (1 - UNMAPPED) * edgeAt(map, p.x + nx * offset, p.y + ny * offset, picture.width, picture.height);
    const strength = (m / (m + 6)) * (1 + POLARITY_SAY * paleness * towards[k]!) * mapped;
    if (offsets.length - first < MOST_CRESTS) {
      offsets.push(offset);
      strengths.push(strength);
      continue;
    }
    let weakest = first;
    for (let c = first + 1; c < offsets.length; c++) if (strengths[c]! < strengths[weakest]!) weakest = c;
    if (strength <= strengths[weakest]!) continue;
    offsets[weakest] = offset;
    strengths[weakest] = strength;
  }
  if (offsets.length === first) return;
  places.push(x);
  starts.push(offsets.length);
}

/** The straight or evenly bowed line that most crests agree with: a small exhaustive search, so no bad start is possible. */
function bestStraightFit({ places, starts, offsets, strengths }: Crests, reachPx: number): number[] {
  let best = [0, 0, 0];
  let bestScore = -1;
  const stepPx = Math.max(1, reachPx / 7);
  const tolerance = stepPx * 1.2;
  // every second place is enough to start from
  const looked = places.flatMap((x, i) =>
    i % 2 === 1
      ? []
      : offsets.slice(starts[i], starts[i + 1]).map((offset, c) => [x, offset, strengths[starts[i]! + c]!] as const),
  );
  const count = 4 * Math.ceil(looked.length / 4);
  return withWorkspace((ws) => {
    const [xs, at, weights] = ([0, 1, 2] as const).map((part) => {
      const padded = new Float32Array(count);
      padded.set(looked.map((crest) => crest[part]));
      return ws.of(padded).at;
    }) as [Address, Address, Address];
    for (let at0 = -reachPx; at0 <= reachPx; at0 += stepPx) {
      for (let at1 = -reachPx; at1 <= reachPx; at1 += stepPx) {
        for (let bow = -reachPx * 0.6; bow <= reachPx * 0.6 + 1e-6; bow += Math.max(stepPx, reachPx * 0.3)) {
          // offset at the ends and half way: at0, at1, and bow beyond the chord
          const middle = (at0 + at1) / 2 + bow;
          const slope = (at1 - at0) / 2;
          // among equals the start is as good as any other
          const score =
            ws.kernels.curveAgreement(xs, at, weights, count, middle, slope, bow, tolerance) *
            (1 - (0.04 * (Math.abs(at0) + Math.abs(at1) + Math.abs(bow))) / reachPx);
          if (score > bestScore) {
            bestScore = score;
            best = [middle, slope, -bow];
          }
        }
      }
    }
    return best;
  });
}

/** How hard powers two, three and four are pulled towards nothing: a side without enough evidence stays straight. */
const STIFFNESS = [0, 0, 0.0004, 0.004, 0.008] as const;

/** One step of Tukey's biweight: crests further than `reach` from the fit so far have no say. */
function reweightedFit(
  { places, starts, offsets, strengths }: Crests,
  from: readonly number[],
  scale: number,
  degree: number,
): number[] | null {
  const n = degree + 1;
  const reach = 2.5 * scale;
  // the normal equations' entries are sums over powers of x, up to twice the degree
  const moments = new Float64Array(2 * degree + 1);
  const right = new Float64Array(n);
  for (let i = 0; i < places.length; i++) {
    const x = places[i]!;
    const expected = offsetAt(from, x);
    let weight = 0;
    let weighted = 0;
    for (let c = starts[i]!; c < starts[i + 1]!; c++) {
      const u = (offsets[c]! - expected) / reach;
      if (u >= 1 || u <= -1) continue;
      const w = (1 - u * u) ** 2 * strengths[c]!;
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
  const normal = Float64Array.from({ length: n * n }, (_, at) => moments[Math.floor(at / n) + (at % n)]!);
  for (let p = 0; p < n; p++) normal[p * n + p]! += STIFFNESS[p]! * weight;
  const fit = solveLinear(normal, right);
  return fit === null ? null : Array.from(fit);
}

/** The crossing of two neighbouring sides nearest to where the corner was thought to be (fixed-point iteration on tangents). */
function cutCurves(before: SideCurve, after: SideCurve, guess: Point): Point {
  let tb = 1;
  let ta = 0;
  for (let i = 0; i < 12; i++) {
    const pb = pointOn(before, tb);
    const pa = pointOn(after, ta);
    const eps = 1e-3;
    const qb = pointOn(before, tb + eps);
    const qa = pointOn(after, ta + eps);
    const bx = (qb.x - pb.x) / eps;
    const by = (qb.y - pb.y) / eps;
    const ax = (qa.x - pa.x) / eps;
    const ay = (qa.y - pa.y) / eps;
    const det = bx * -ay + ax * by;
    if (Math.abs(det) < 1e-6) return guess;
    const dx = pa.x - pb.x;
    const dy = pa.y - pb.y;
    tb += (dx * -ay + ax * dy) / det;
    ta += (bx * dy - by * dx) / det;
    if (!(tb > 0.5 && tb < 1.5 && ta > -0.5 && ta < 0.5)) return guess;
  }
  return pointOn(after, ta);
}
