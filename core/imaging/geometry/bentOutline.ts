import { distance, lerpPoint, type Point } from './point';
import type { Quad } from './quad';

/**
 * How far one side leaves its chord at a quarter, half and three quarters of its length, as shares of the chord; positive
 * outwards. Shares stay true when corners move or the picture is scaled.
 */
export type Bend = readonly [quarter: number, half: number, threeQuarters: number];

/** The bends of the four sides: top, right, bottom, left. */
export type Bends = readonly [top: Bend, right: Bend, bottom: Bend, left: Bend];

/** A side that does not leave its chord. */
export const STRAIGHT: Bend = [0, 0, 0];
/** Four of them. */
export const ALL_STRAIGHT: Bends = [STRAIGHT, STRAIGHT, STRAIGHT, STRAIGHT];

/** The offset at share t of the chord: the quartic through both ends and the three given places. */
export function bendAt([q1, q2, q3]: Bend, t: number): number {
  // Lagrange's polynomials on 0, 1/4, 1/2, 3/4, 1
  const s = 1 - t;
  return (
    t *
    s *
    ((128 / 3) * q1 * (t - 0.5) * (t - 0.75) -
      64 * q2 * (t - 0.25) * (t - 0.75) +
      (128 / 3) * q3 * (t - 0.25) * (t - 0.5))
  );
}

/** The point at share t of the bent side from a to b, corners in clockwise order. */
export function pointOnBentSide(a: Point, b: Point, bend: Bend, t: number): Point {
  const p = lerpPoint(a, b, t);
  const o = bendAt(bend, t);
  return { x: p.x + (b.y - a.y) * o, y: p.y - (b.x - a.x) * o };
}

/** The whole outline clockwise from the first corner, each side in `steps` pieces. */
export const ringOf = (quad: Quad, bends: Bends, steps: number): Point[] =>
  bends.flatMap((bend, s) =>
    Array.from({ length: steps }, (_, i) => pointOnBentSide(quad[s]!, quad[(s + 1) % 4]!, bend, i / steps)),
  );

/** The bends of the outline when its corners are renamed by turnQuad. */
export function turnBends(bends: Bends, quarterTurns: number): Bends {
  const at = (i: number): Bend => bends[(((i - quarterTurns) % 4) + 4) % 4]!;
  return [at(0), at(1), at(2), at(3)];
}

/** The most any side leaves its chord, as a share of that side. */
export const mostBent = (bends: Bends): number => Math.max(...bends.flat().map(Math.abs));

/** Signed distance in px of p from the bent side, positive outwards, measured across the chord. */
export function distanceToBentSide(p: Point, a: Point, b: Point, bend: Bend): number {
  const length = distance(a, b) || 1;
  const along = ((p.x - a.x) * (b.x - a.x) + (p.y - a.y) * (b.y - a.y)) / (length * length);
  const out = ((p.x - a.x) * (b.y - a.y) - (p.y - a.y) * (b.x - a.x)) / length;
  return out - bendAt(bend, Math.min(1.2, Math.max(-0.2, along))) * length;
}
