import { FotoplanError } from '../../errors';
import type { Point } from './point';
import { cornerClearancePx, type Quad } from './quad';

/** 3×3 projective map, row-major, 9 numbers; maps (x, y, 1) up to a common factor. */
export type Homography = readonly [number, number, number, number, number, number, number, number, number];

/** Where a homography carries a point. NaN or infinite on its vanishing line. */
export const applyHomography = (h: Homography, p: Point): Point => {
  const w = h[6] * p.x + h[7] * p.y + h[8];
  return { x: (h[0] * p.x + h[1] * p.y + h[2]) / w, y: (h[3] * p.x + h[4] * p.y + h[5]) / w };
};

/** The homography that does b, then a. */
export const multiplyHomographies = (a: Homography, b: Homography): Homography => {
  const out: number[] = [];
  for (let r = 0; r < 3; r++) {
    for (let c = 0; c < 3; c++) out.push(a[r * 3]! * b[c]! + a[r * 3 + 1]! * b[3 + c]! + a[r * 3 + 2]! * b[6 + c]!);
  }
  return out as unknown as Homography;
};

/** The inverse up to scale (the adjugate), which is all a homography needs. */
export const invertHomography = (h: Homography): Homography => {
  const [a, b, c, d, e, f, g, i, j] = h;
  return [
    e * j - f * i,
    c * i - b * j,
    b * f - c * e,
    f * g - d * j,
    a * j - c * g,
    c * d - a * f,
    d * i - e * g,
    b * g - a * i,
    a * e - b * d,
  ];
};

/** The homography that carries the unit square (0,0) (1,0) (1,1) (0,1) onto the quadrilateral, in closed form. */
function fromUnitSquare(q: Quad): Homography {
  // Heckbert, Fundamentals of Texture Mapping and Image Warping (1989), section 2.2.3
  const [p0, p1, p2, p3] = q;
  const sx = p0.x - p1.x + p2.x - p3.x;
  const sy = p0.y - p1.y + p2.y - p3.y;
  const dx1 = p1.x - p2.x;
  const dx2 = p3.x - p2.x;
  const dy1 = p1.y - p2.y;
  const dy2 = p3.y - p2.y;
  const det = dx1 * dy2 - dx2 * dy1;
  const g = (sx * dy2 - dx2 * sy) / det;
  const h = (dx1 * sy - sx * dy1) / det;
  return [
    p1.x - p0.x + g * p1.x,
    p3.x - p0.x + h * p3.x,
    p0.x,
    p1.y - p0.y + g * p1.y,
    p3.y - p0.y + h * p3.y,
    p0.y,
    g,
    h,
    1,
  ];
}

/**
 * Finds the homography that carries one quadrilateral onto another.
 * Method: both are reached from the unit square in closed form (Heckbert 1989, section 2.2.3), then composed.
 * Limits: four points are met exactly, so no residual tells a good fit from a bad one.
 * @param from - corners in source pixels, TL, TR, BR, BL
 * @param to - the same corners in output pixels
 * @returns 3×3, row-major, of unit Frobenius norm
 * @throws FotoplanError OUTLINE_DEGENERATE when three corners of either lie within 1e-3 px of one line
 */
export function homographyBetween(from: Quad, to: Quad): Homography {
  for (const quad of [from, to]) {
    if (!(cornerClearancePx(quad) > 1e-3)) {
      throw new FotoplanError('OUTLINE_DEGENERATE', 'Move the corners apart: three of them lie on one line.');
    }
  }
  const h = multiplyHomographies(fromUnitSquare(to), invertHomography(fromUnitSquare(from)));
  const norm = Math.hypot(...h) || 1;
  return h.map((v) => v / norm) as unknown as Homography;
}
