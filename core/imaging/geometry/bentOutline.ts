import { distance, lerpPoint, type Point } from './point';
import type { Quad } from './quad';

/**
 * How far one side leaves its chord at equally spaced places between its ends, as shares of the chord; positive outwards. Three
 * of them (a quarter, half and three quarters) are a gentle curve, SIDE_DETAIL a side that was traced, with its waves and
 * folds. Shares stay true when corners move or the picture is scaled.
 */
export type Bend = readonly number[];

/** The bends of the four sides: top, right, bottom, left. */
export type Bends = readonly [top: Bend, right: Bend, bottom: Bend, left: Bend];

/** Places at which a side was traced: every 12 mm of A4's long side, and at its quarters. */
export const SIDE_DETAIL = 23;

/** A side that does not leave its chord. */
export const STRAIGHT: Bend = [0, 0, 0];
/** Four of them. */
export const ALL_STRAIGHT: Bends = [STRAIGHT, STRAIGHT, STRAIGHT, STRAIGHT];

/**
 * The offset at share t of the chord: of three, the quartic through both ends and the three; of more, cubics between
 * neighbouring places (Catmull & Rom 1974).
 */
export function bendAt(bend: Bend, t: number): number {
  if (bend.length === 3) return quarticAt(bend, t);
  const pieces = bend.length + 1;
  const at = Math.min(pieces - 1, Math.max(0, Math.floor(t * pieces)));
  const f = t * pieces - at;
  const value = (k: number): number => (k <= 0 || k >= pieces ? 0 : bend[k - 1]!);
  const [b, c] = [value(at), value(at + 1)];
  // beyond a corner the side goes on straight
  const a = at === 0 ? 2 * b - c : value(at - 1);
  const d = at === pieces - 1 ? 2 * c - b : value(at + 2);
  if (f < 0 || f > 1) return b + (c - b) * f;
  return b + 0.5 * f * (c - a + f * (2 * a - 5 * b + 4 * c - d + f * (3 * (b - c) + d - a)));
}

function quarticAt([q1, q2, q3]: Bend, t: number): number {
  // Lagrange's polynomials on 0, 1/4, 1/2, 3/4, 1
  const s = 1 - t;
  return (
    t *
    s *
    ((128 / 3) * q1! * (t - 0.5) * (t - 0.75) -
      64 * q2! * (t - 0.25) * (t - 0.75) +
      (128 / 3) * q3! * (t - 0.25) * (t - 0.5))
  );
}

/** A bend at a quarter, half and three quarters, however finely it is known. */
export const quartersOf = (bend: Bend): Bend => [0.25, 0.5, 0.75].map((t) => bendAt(bend, t));

/** A bend made fuller by a parabola that leaves the chord by so much in its middle, as a share. */
export const bowedBy = (bend: Bend, share: number): Bend =>
  bend.map((offset, k) => {
    const t = (k + 1) / (bend.length + 1);
    return offset + 4 * t * (1 - t) * share;
  });

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
