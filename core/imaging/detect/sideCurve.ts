import { quartersOf, type Bend } from '../geometry/bentOutline';
import { distance, lerpPoint, type Point } from '../geometry/point';

/** One side as a gentle curve over the chord a→b: a polynomial of the fourth degree at most. */
export interface SideCurve {
  readonly a: Point;
  readonly b: Point;
  /** Offset from the chord in px, to the right of travel (inwards), in powers of 2t - 1 for the share t of the chord. */
  readonly powers: readonly number[];
  /** Share of the samples that agree with the curve. */
  readonly support: number;
}

/**
 * The polynomial’s value.
 * @param x - 2t - 1 for the share t of the chord
 */
export function offsetAt(powers: readonly number[], x: number): number {
  let sum = 0;
  for (let k = powers.length - 1; k >= 0; k--) sum = sum * x + powers[k]!;
  return sum;
}

/** The polynomial plus the bend it was measured from (a bend of three is a quartic too). */
export function addBend(powers: readonly number[], whole: Bend, length: number): number[] {
  const bend = quartersOf(whole);
  const out = [0, 1, 2, 3, 4].map((k) => powers[k] ?? 0);
  // a quartic that vanishes at both ends: -(1 - x²)(e0 + e1 x + e2 x²) inwards, from its values at x = -1/2, 0, 1/2
  const e0 = bend[1]!;
  const sum = (bend[0]! + bend[2]!) / 2 / 0.75;
  const e1 = (bend[2]! - bend[0]!) / 0.75;
  const e2 = (sum - e0) * 4;
  const bent = [e0, e1, e2 - e0, -e1, -e2];
  return out.map((c, k) => c - bent[k]! * length);
}

/** The point at share t of the chord. */
function pointOn({ a, b, powers }: SideCurve, t: number): Point {
  const length = distance(a, b) || 1;
  const p = lerpPoint(a, b, t);
  const o = offsetAt(powers, 2 * t - 1);
  return { x: p.x - ((b.y - a.y) / length) * o, y: p.y + ((b.x - a.x) / length) * o };
}

/** How the curve leaves the chord between two of its points, which become its corners. */
export function bendBetween(curve: SideCurve, from: Point, to: Point): Bend {
  const length = distance(from, to) || 1;
  const along = (p: Point): number =>
    ((p.x - curve.a.x) * (curve.b.x - curve.a.x) + (p.y - curve.a.y) * (curve.b.y - curve.a.y)) /
    (distance(curve.a, curve.b) ** 2 || 1);
  const t0 = along(from);
  const t1 = along(to);
  return [0.25, 0.5, 0.75].map((q) => {
    const p = pointOn(curve, t0 + (t1 - t0) * q);
    return ((p.x - from.x) * (to.y - from.y) - (p.y - from.y) * (to.x - from.x)) / (length * length);
  });
}

/** The crossing of two neighbouring sides nearest to where the corner was thought to be (fixed-point iteration on tangents). */
export function intersectCurves(before: SideCurve, after: SideCurve, guess: Point): Point {
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
