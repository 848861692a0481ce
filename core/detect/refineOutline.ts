import { distance, lerpPoint, type Point } from '../geometry/point';
import type { Quad } from '../geometry/quad';
import type { ColourPlanes } from './colourPlanes';

/** One side as a gentle curve: offset from the chord a→b in px at share t is c0 + c1·t + c2·t², to the right of travel. */
interface SideCurve {
  readonly a: Point;
  readonly b: Point;
  readonly c0: number;
  readonly c1: number;
  readonly c2: number;
  /** Share of the samples that agree with the curve. */
  readonly support: number;
}

export interface RefinedOutline {
  readonly quad: Quad;
  /** Points along each side from corner to corner, in the same order as the sides. */
  readonly sides: readonly (readonly Point[])[];
  /** Share of edge samples that lie on the fitted sides, weakest side. */
  readonly leastSupport: number;
}

const SAMPLES = 72;

/**
 * Moves each side onto the strongest nearby step edge, to a fraction of a pixel, and lets it bow.
 * Method: profiles across the side are correlated with a step; the crest is found to sub-pixel by a parabola; a quadratic
 * is fitted through the crests by iteratively reweighted least squares (Tukey's biweight), so thumbs, pens and printed
 * rules that hold a minority of the samples fall out. Neighbouring curves are then cut with each other.
 * @param planes - the picture to refine in, pixels of its own
 * @param start - outline in those pixels
 * @param reachPx - how far to either side to look
 * @param fixed - sides that must stay (they lie on the picture's border)
 */
export function refineOutline(planes: ColourPlanes, start: Quad, reachPx: number, fixed: readonly boolean[]): RefinedOutline {
  const curves = [0, 1, 2, 3].map((s) => {
    const a = start[s]!;
    const b = start[(s + 1) % 4]!;
    return fixed[s] === true ? { a, b, c0: 0, c1: 0, c2: 0, support: 1 } : fitSide(planes, a, b, reachPx);
  });
  const quad = [0, 1, 2, 3].map((s) => cutCurves(curves[(s + 3) % 4]!, curves[s]!, start[s]!)) as unknown as Quad;
  const sides = curves.map((curve, s) => traceSide(curve, quad[s]!, quad[(s + 1) % 4]!));
  return { quad, sides, leastSupport: Math.min(...curves.map((c) => c.support)) };
}

const offsetAt = (c: SideCurve, t: number): number => c.c0 + c.c1 * t + c.c2 * t * t;

const pointOn = (c: SideCurve, t: number): Point => {
  const length = distance(c.a, c.b) || 1;
  const p = lerpPoint(c.a, c.b, t);
  const o = offsetAt(c, t);
  return { x: p.x - ((c.b.y - c.a.y) / length) * o, y: p.y + ((c.b.x - c.a.x) / length) * o };
};

function fitSide(planes: ColourPlanes, a: Point, b: Point, reachPx: number): SideCurve {
  const length = distance(a, b) || 1;
  const nx = -(b.y - a.y) / length;
  const ny = (b.x - a.x) / length;
  const ts: number[] = [];
  const crests: { offset: number; strength: number }[][] = [];
  const margin = Math.min(0.12, (reachPx * 0.8) / length);
  for (let k = 0; k < SAMPLES; k++) {
    const t = margin + ((1 - 2 * margin) * (k + 0.5)) / SAMPLES;
    const p = lerpPoint(a, b, t);
    if (p.x < 2 || p.y < 2 || p.x > planes.width - 2 || p.y > planes.height - 2) continue;
    const found = crestsAcross(planes, p, nx, ny, reachPx);
    if (found.length === 0) continue;
    ts.push(t);
    crests.push(found);
  }
  const nothing: SideCurve = { a, b, c0: 0, c1: 0, c2: 0, support: 0 };
  if (ts.length < 12) return nothing;
  let fit = bestStraightFit(ts, crests, reachPx);
  for (const scale of [reachPx * 0.35, reachPx * 0.2, Math.max(1.5, reachPx * 0.1), 1.5, 1.2]) fit = reweightedQuadratic(ts, crests, fit, scale) ?? fit;
  const agreeing = ts.filter((t, i) => crests[i]!.some((c) => Math.abs(c.offset - (fit[0] + fit[1] * t + fit[2] * t * t)) < 2)).length;
  return { a, b, c0: fit[0], c1: fit[1], c2: fit[2], support: agreeing / SAMPLES };
}

const stepAt = (v: Float32Array, at: number): number => v[at + 1]! + v[at + 2]! + v[at + 3]! * 0.7 - v[at - 1]! - v[at - 2]! - v[at - 3]! * 0.7;

/** Up to three strongest step edges on the profile through p along the normal. */
function crestsAcross(planes: ColourPlanes, p: Point, nx: number, ny: number, reachPx: number): { offset: number; strength: number }[] {
  const reach = Math.ceil(reachPx);
  const n = 2 * reach + 1;
  const half = 3;
  const profile = (plane: Float32Array): Float32Array => {
    const out = new Float32Array(n + 2 * half);
    for (let k = 0; k < out.length; k++) out[k] = sampleLinear(plane, planes.width, planes.height, p.x + nx * (k - reach - half), p.y + ny * (k - reach - half));
    return out;
  };
  const l = profile(planes.l);
  const ca = profile(planes.a);
  const cb = profile(planes.b);
  const response = new Float32Array(n);
  for (let k = 0; k < n; k++) {
    const at = k + half;
    response[k] = Math.sqrt(stepAt(l, at) ** 2 + stepAt(ca, at) ** 2 + stepAt(cb, at) ** 2) / 2.7;
  }
  const crests: { offset: number; strength: number }[] = [];
  for (let k = 1; k < n - 1; k++) {
    const m = response[k]!;
    if (m < 1.5 || m < response[k - 1]! || m <= response[k + 1]!) continue;
    const curve = response[k - 1]! - 2 * m + response[k + 1]!;
    const shift = curve < 0 ? (0.5 * (response[k - 1]! - response[k + 1]!)) / curve : 0;
    crests.push({ offset: k - reach + shift, strength: m / (m + 6) });
  }
  return crests.sort((p1, p2) => p2.strength - p1.strength).slice(0, 3);
}

function sampleLinear(plane: Float32Array, width: number, height: number, x: number, y: number): number {
  const px = Math.min(width - 1.001, Math.max(0, x - 0.5));
  const py = Math.min(height - 1.001, Math.max(0, y - 0.5));
  const xi = px | 0;
  const yi = py | 0;
  const fx = px - xi;
  const fy = py - yi;
  const at = yi * width + xi;
  return (plane[at]! * (1 - fx) + plane[at + 1]! * fx) * (1 - fy) + (plane[at + width]! * (1 - fx) + plane[at + width + 1]! * fx) * fy;
}

type Coefficients = readonly [number, number, number];

/** The straight or evenly bowed line that most crests agree with: a small exhaustive search, so no bad start is possible. */
function bestStraightFit(ts: readonly number[], crests: readonly (readonly { offset: number; strength: number }[])[], reachPx: number): Coefficients {
  let best: Coefficients = [0, 0, 0];
  let bestScore = -1;
  const stepPx = Math.max(1, reachPx / 10);
  const tolerance = stepPx * 1.2;
  for (let at0 = -reachPx; at0 <= reachPx; at0 += stepPx) {
    for (let at1 = -reachPx; at1 <= reachPx; at1 += stepPx) {
      for (let bow = -reachPx * 0.6; bow <= reachPx * 0.6 + 1e-6; bow += Math.max(stepPx, reachPx * 0.3)) {
        // offset at the ends and half way: at0, at1, and bow beyond the chord
        const c2 = -4 * bow;
        const c1 = at1 - at0 - c2;
        let score = 0;
        for (let i = 0; i < ts.length; i++) {
          const t = ts[i]!;
          const o = at0 + c1 * t + c2 * t * t;
          for (const crest of crests[i]!) {
            const away = Math.abs(crest.offset - o);
            if (away < tolerance) score += crest.strength * (1 - away / tolerance / 2);
          }
        }
        // among equals the start is as good as any other
        score *= 1 - 0.04 * (Math.abs(at0) + Math.abs(at1) + Math.abs(bow)) / reachPx;
        if (score > bestScore) {
          bestScore = score;
          best = [at0, c1, c2];
        }
      }
    }
  }
  return best;
}

function reweightedQuadratic(
  ts: readonly number[],
  crests: readonly (readonly { offset: number; strength: number }[])[],
  fit: Coefficients,
  scale: number,
): Coefficients | null {
  const m = [0, 0, 0, 0, 0];
  const r = [0, 0, 0];
  for (let i = 0; i < ts.length; i++) {
    const t = ts[i]!;
    const expected = fit[0] + fit[1] * t + fit[2] * t * t;
    for (const crest of crests[i]!) {
      const u = (crest.offset - expected) / (scale * 2.5);
      if (Math.abs(u) >= 1) continue;
      const w = (1 - u * u) ** 2 * crest.strength;
      let power = w;
      for (let k = 0; k < 5; k++) {
        m[k]! += power;
        if (k < 3) r[k]! += power * crest.offset;
        power *= t;
      }
    }
  }
  // a side without enough evidence stays straight: the bow is pulled towards none
  const stiffness = 0.02 * m[0]!;
  return solve3([m[0]!, m[1]!, m[2]!, m[1]!, m[2]!, m[3]!, m[2]!, m[3]!, m[4]! + stiffness * 0.02], [r[0]!, r[1]!, r[2]!]);
}

function solve3(a: readonly number[], b: readonly number[]): Coefficients | null {
  const det3 = (m: readonly number[]): number =>
    m[0]! * (m[4]! * m[8]! - m[5]! * m[7]!) - m[1]! * (m[3]! * m[8]! - m[5]! * m[6]!) + m[2]! * (m[3]! * m[7]! - m[4]! * m[6]!);
  const det = det3(a);
  if (Math.abs(det) < 1e-9) return null;
  const column = (k: number): number => det3(a.map((v, i) => (i % 3 === k ? b[Math.floor(i / 3)]! : v))) / det;
  return [column(0), column(1), column(2)];
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

function traceSide(curve: SideCurve, from: Point, to: Point): Point[] {
  const along = (p: Point): number => {
    const length2 = (curve.b.x - curve.a.x) ** 2 + (curve.b.y - curve.a.y) ** 2 || 1;
    return ((p.x - curve.a.x) * (curve.b.x - curve.a.x) + (p.y - curve.a.y) * (curve.b.y - curve.a.y)) / length2;
  };
  const t0 = along(from);
  const t1 = along(to);
  const steps = 16;
  return Array.from({ length: steps + 1 }, (_, i) => (i === 0 ? from : i === steps ? to : pointOn(curve, t0 + ((t1 - t0) * i) / steps)));
}
