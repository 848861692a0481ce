import { bendAt, type Bend, type Bends } from '../geometry/bentOutline';
import { distance, lerpPoint, type Point } from '../geometry/point';
import type { Quad } from '../geometry/quad';
import { solveLinear } from '../geometry/solveLinear';
import type { ColourPlanes } from './colourPlanes';
import { edgeAt, type PageMap } from './pageNetwork';

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
 * @param planes - the picture to refine in, pixels of its own
 * @param start - outline in those pixels
 * @param reachPx - how far to either side to look
 * @param fixed - sides that must stay (they lie on the picture's border)
 * @param paleness - how much paler than its surroundings the sheet is, -1 to 1: steps the other way count for less
 * @param map - what the network says of the picture, or null to do without: steps where it sees the page's edge count for more
 */
export function refineOutline(planes: ColourPlanes, start: Quad, bends: Bends, reachPx: number, fixed: readonly boolean[], paleness = 0, map: PageMap | null = null): RefinedOutline {
  const curves = [0, 1, 2, 3].map((s) => {
    const a = start[s]!;
    const b = start[(s + 1) % 4]!;
    return fixed[s] === true ? { a, b, powers: [0], support: 1 } : fitSide(planes, a, b, bends[s]!, reachPx, paleness, map);
  });
  const quad = [0, 1, 2, 3].map((s) => cutCurves(curves[(s + 3) % 4]!, curves[s]!, start[s]!)) as unknown as Quad;
  const found = curves.map((curve, s) => bendOf(curve, quad[s]!, quad[(s + 1) % 4]!)) as unknown as Bends;
  return { quad, bends: found, leastSupport: Math.min(...curves.map((c) => c.support)) };
}

const offsetAt = (powers: readonly number[], t: number): number => powers.reduceRight((sum, c) => sum * (2 * t - 1) + c, 0);

const pointOn = ({ a, b, powers }: SideCurve, t: number): Point => {
  const length = distance(a, b) || 1;
  const p = lerpPoint(a, b, t);
  const o = offsetAt(powers, t);
  return { x: p.x - ((b.y - a.y) / length) * o, y: p.y + ((b.x - a.x) / length) * o };
};

/** How the curve leaves the chord between its two corners. */
function bendOf(curve: SideCurve, from: Point, to: Point): Bend {
  const length = distance(from, to) || 1;
  const along = (p: Point): number => ((p.x - curve.a.x) * (curve.b.x - curve.a.x) + (p.y - curve.a.y) * (curve.b.y - curve.a.y)) / (distance(curve.a, curve.b) ** 2 || 1);
  const t0 = along(from);
  const t1 = along(to);
  return [0.25, 0.5, 0.75].map((q) => {
    const p = pointOn(curve, t0 + (t1 - t0) * q);
    return ((p.x - from.x) * (to.y - from.y) - (p.y - from.y) * (to.x - from.x)) / (length * length);
  }) as unknown as Bend;
}

/** The crests seen across one place of a side, px from the chord. */
interface Crest {
  readonly offset: number;
  readonly strength: number;
}

function fitSide(planes: ColourPlanes, a: Point, b: Point, bend: Bend, reachPx: number, paleness: number, map: PageMap | null): SideCurve {
  const length = distance(a, b) || 1;
  const nx = -(b.y - a.y) / length;
  const ny = (b.x - a.x) / length;
  const ts: number[] = [];
  const crests: Crest[][] = [];
  const margin = Math.min(0.12, (reachPx * 0.8) / length);
  for (let k = 0; k < SAMPLES; k++) {
    const t = margin + ((1 - 2 * margin) * (k + 0.5)) / SAMPLES;
    const known = -bendAt(bend, t) * length;
    const p = lerpPoint(a, b, t);
    const q = { x: p.x + nx * known, y: p.y + ny * known };
    if (q.x < 2 || q.y < 2 || q.x > planes.width - 2 || q.y > planes.height - 2) continue;
    const found = crestsAcross(planes, q, nx, ny, reachPx, paleness, map);
    if (found.length === 0) continue;
    ts.push(t);
    crests.push(found);
  }
  // crests are measured from the known bend; the fit is the change to it
  const curve = (powers: readonly number[], support: number): SideCurve => ({ a, b, powers: addBend(powers, bend, length), support });
  if (ts.length < 12) return curve([0], 0);
  // from nearby the known course is a good enough start
  const start: readonly number[] = reachPx > NEARBY_PX ? bestStraightFit(ts, crests, reachPx) : [0];
  const settle = (degree: number): readonly number[] => {
    let fit = degree === 1 ? start.slice(0, 2) : start;
    for (const scale of [reachPx * 0.35, reachPx * 0.2]) fit = reweightedFit(ts, crests, fit, scale, Math.min(2, degree)) ?? fit;
    for (const scale of [Math.max(1.5, reachPx * 0.15), Math.max(1.5, reachPx * 0.1), 1.5, 1.2]) fit = reweightedFit(ts, crests, fit, scale, degree) ?? fit;
    return fit;
  };
  // the plainest course that explains as much as the freest one: a curve finds more to pass through than a line, true or not
  const tolerance = Math.min(AGREES_MOST_PX, Math.max(AGREES_LEAST_PX, AGREES_SHARE * length));
  const courses = COURSES.map(({ degree, explains }) => {
    const fit = settle(degree);
    return { fit, explains, agreed: agreement(ts, crests, fit, tolerance) };
  });
  const { fit } = courses.filter(({ explains, agreed }) => agreed >= explains * courses[0]!.agreed).at(-1)!;
  const agreeing = ts.filter((t, i) => crests[i]!.some((c) => Math.abs(c.offset - offsetAt(fit, t)) < AGREES_MOST_PX)).length;
  return curve(fit, agreeing / SAMPLES);
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

/** How much of what is seen across the side lies on the curve: the strength of the crests, less the further off they are. */
function agreement(ts: readonly number[], crests: readonly (readonly Crest[])[], fit: readonly number[], tolerance: number): number {
  let sum = 0;
  for (let i = 0; i < ts.length; i++) {
    const expected = offsetAt(fit, ts[i]!);
    let most = 0;
    for (const { offset, strength } of crests[i]!) {
      const u = (offset - expected) / tolerance;
      if (Math.abs(u) < 1) most = Math.max(most, strength * (1 - u * u));
    }
    sum += most;
  }
  return sum;
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

const stepAt = (v: Float32Array, at: number): number => v[at + 1]! + v[at + 2]! + v[at + 3]! * 0.7 - v[at - 1]! - v[at - 2]! - v[at - 3]! * 0.7;

const ALONG_PX = 0.9;

/** What a step counts where the network sees no edge of the page, beside one where it is sure of it. */
const UNMAPPED = 0.5;

/** How much the direction of a step counts beside its strength. */
export const POLARITY_SAY = 0.6;

/** How strong a step is at each whole px across a side, from -reach to reach, in levels; the sign of `towards` says whether it gets paler inwards. */
export interface StepsAcross {
  readonly response: Float32Array;
  readonly towards: Float32Array;
}

/** Levels of response to a step of one level. */
const STEP_GAIN = 2.7;

/** Profiles are read by the thousand: their memory is used again. */
let profiles: { readonly l: Float32Array; readonly ca: Float32Array; readonly cb: Float32Array; readonly steps: StepsAcross } | null = null;

function profilesOf(length: number, n: number): NonNullable<typeof profiles> {
  const floats = (count: number): Float32Array => new Float32Array(count);
  if (profiles?.l.length !== length) profiles = { l: floats(length), ca: floats(length), cb: floats(length), steps: { response: floats(n), towards: floats(n) } };
  for (const plane of [profiles.l, profiles.ca, profiles.cb]) plane.fill(0);
  return profiles;
}

/** Correlates the profile through p along the normal with a step. @returns void when it is called again */
export function stepsAcross(planes: ColourPlanes, p: Point, nx: number, ny: number, reach: number): StepsAcross {
  const n = 2 * reach + 1;
  const half = 3;
  const { l, ca, cb, steps } = profilesOf(n + 2 * half, n);
  const { response, towards } = steps;
  for (let k = 0; k < l.length; k++) {
    const x = p.x + nx * (k - reach - half);
    const y = p.y + ny * (k - reach - half);
    // a mean along the side: noise goes, the edge stays
    addSample(planes, x + ny * ALONG_PX, y - nx * ALONG_PX, l, ca, cb, k);
    addSample(planes, x - ny * ALONG_PX, y + nx * ALONG_PX, l, ca, cb, k);
  }
  for (let k = 0; k < n; k++) {
    const at = k + half;
    const paler = stepAt(l, at);
    response[k] = Math.sqrt(paler ** 2 + stepAt(ca, at) ** 2 + stepAt(cb, at) ** 2) / STEP_GAIN;
    towards[k] = paler / (STEP_GAIN * response[k]! || 1);
  }
  return steps;
}

/** Up to three strongest step edges on the profile through p along the normal. */
function crestsAcross(planes: ColourPlanes, p: Point, nx: number, ny: number, reachPx: number, paleness: number, map: PageMap | null): Crest[] {
  const reach = Math.ceil(reachPx);
  const { response, towards } = stepsAcross(planes, p, nx, ny, reach);
  const crests: Crest[] = [];
  for (let k = 1; k < response.length - 1; k++) {
    const m = response[k]!;
    if (m < 1.5 || m < response[k - 1]! || m <= response[k + 1]!) continue;
    const curve = response[k - 1]! - 2 * m + response[k + 1]!;
    const shift = curve < 0 ? (0.5 * (response[k - 1]! - response[k + 1]!)) / curve : 0;
    // the normal points inwards: a step up is the way a pale sheet's edge goes, a step down a printed band's
    const offset = k - reach + shift;
    const mapped = map === null ? 1 : UNMAPPED + (1 - UNMAPPED) * edgeAt(map, p.x + nx * offset, p.y + ny * offset, planes.width, planes.height);
    crests.push({ offset, strength: (m / (m + 6)) * (1 + POLARITY_SAY * paleness * towards[k]!) * mapped });
  }
  return crests.sort((p1, p2) => p2.strength - p1.strength).slice(0, 3);
}

/** Adds half of the planes' bilinear samples at a place to those at k. */
function addSample({ width, height, l, a, b }: ColourPlanes, x: number, y: number, toL: Float32Array, toA: Float32Array, toB: Float32Array, k: number): void {
  const px = Math.min(width - 1.001, Math.max(0, x - 0.5));
  const py = Math.min(height - 1.001, Math.max(0, y - 0.5));
  const xi = px | 0;
  const yi = py | 0;
  const fx = px - xi;
  const fy = py - yi;
  const at = yi * width + xi;
  const tl = (1 - fx) * (1 - fy) * 0.5;
  const tr = fx * (1 - fy) * 0.5;
  const bl = (1 - fx) * fy * 0.5;
  const br = fx * fy * 0.5;
  toL[k]! += l[at]! * tl + l[at + 1]! * tr + l[at + width]! * bl + l[at + width + 1]! * br;
  toA[k]! += a[at]! * tl + a[at + 1]! * tr + a[at + width]! * bl + a[at + width + 1]! * br;
  toB[k]! += b[at]! * tl + b[at + 1]! * tr + b[at + width]! * bl + b[at + width + 1]! * br;
}

/** The straight or evenly bowed line that most crests agree with: a small exhaustive search, so no bad start is possible. */
function bestStraightFit(ts: readonly number[], crests: readonly (readonly Crest[])[], reachPx: number): number[] {
  let best = [0, 0, 0];
  let bestScore = -1;
  const stepPx = Math.max(1, reachPx / 7);
  const tolerance = stepPx * 1.2;
  const seen = crests.flatMap((some, i) => (i % 2 === 0 ? some.map(({ offset, strength }) => [2 * ts[i]! - 1, offset, strength] as const) : []));
  const xs = Float64Array.from(seen, ([x]) => x);
  const offsets = Float64Array.from(seen, ([, offset]) => offset);
  const strengths = Float64Array.from(seen, ([, , strength]) => strength);
  for (let at0 = -reachPx; at0 <= reachPx; at0 += stepPx) {
    for (let at1 = -reachPx; at1 <= reachPx; at1 += stepPx) {
      for (let bow = -reachPx * 0.6; bow <= reachPx * 0.6 + 1e-6; bow += Math.max(stepPx, reachPx * 0.3)) {
        // offset at the ends and half way: at0, at1, and bow beyond the chord
        const middle = (at0 + at1) / 2 + bow;
        const slope = (at1 - at0) / 2;
        let score = 0;
        for (let i = 0; i < xs.length; i++) {
          const x = xs[i]!;
          const away = Math.abs(offsets[i]! - middle - slope * x + bow * x * x);
          if (away < tolerance) score += strengths[i]! * (1 - away / tolerance / 2);
        }
        // among equals the start is as good as any other
        score *= 1 - (0.04 * (Math.abs(at0) + Math.abs(at1) + Math.abs(bow))) / reachPx;
        if (score > bestScore) {
          bestScore = score;
          best = [middle, slope, -bow];
        }
      }
    }
  }
  return best;
}

/** How hard powers two, three and four are pulled towards nothing: a side without enough evidence stays straight. */
const STIFFNESS = [0, 0, 0.0004, 0.004, 0.008] as const;

/** One step of Tukey's biweight: crests further than `reach` from the fit so far have no say. */
function reweightedFit(ts: readonly number[], crests: readonly (readonly Crest[])[], from: readonly number[], scale: number, degree: number): number[] | null {
  const n = degree + 1;
  const normal = new Float64Array(n * n);
  const right = new Float64Array(n);
  const reach = 2.5 * scale;
  const powers = new Float64Array(n);
  for (let i = 0; i < ts.length; i++) {
    const x = 2 * ts[i]! - 1;
    for (let k = 0, power = 1; k < n; k++, power *= x) powers[k] = power;
    const expected = offsetAt(from, ts[i]!);
    for (const crest of crests[i]!) {
      const u = (crest.offset - expected) / reach;
      if (Math.abs(u) >= 1) continue;
      const w = (1 - u * u) ** 2 * crest.strength;
      for (let p = 0; p < n; p++) {
        right[p]! += w * powers[p]! * crest.offset;
        for (let q = 0; q < n; q++) normal[p * n + q]! += w * powers[p]! * powers[q]!;
      }
    }
  }
  const weight = normal[0]!;
  for (let p = 0; p < n; p++) normal[p * n + p]! += STIFFNESS[p]! * weight;
  const fit = weight > 0 ? solveLinear(normal, right) : null;
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
