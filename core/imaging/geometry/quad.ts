import { cross, distance, distanceToLine, lerpPoint, scalePoint, type Point } from './point';

/** Four corners, always in this order, as the page is read. */
export type Quad = readonly [tl: Point, tr: Point, br: Point, bl: Point];

/** The quadrilateral with each corner changed. */
export const mapQuad = (quad: Quad, change: (p: Point, index: number) => Point): Quad => [
  change(quad[0], 0),
  change(quad[1], 1),
  change(quad[2], 2),
  change(quad[3], 3),
];

/** The same outline in a picture `factor` times as large. */
export const scaleQuad = (quad: Quad, factor: number): Quad => mapQuad(quad, (p) => scalePoint(p, factor));

/** The whole picture as an outline. */
export const wholePicture = (width: number, height: number): Quad => [
  { x: 0, y: 0 },
  { x: width, y: 0 },
  { x: width, y: height },
  { x: 0, y: height },
];

/** Whether an outline is the whole picture, to a pixel, whichever of its corners comes first. */
export const isWholePicture = (quad: Quad, width: number, height: number): boolean =>
  wholePicture(width, height).every((corner) => quad.some((p) => distance(p, corner) < 1));

/** A place in the quadrilateral by shares of its sides, 0 to 1, without perspective: (0, 0) is its top left corner. */
export const placeOnQuad = ([tl, tr, br, bl]: Quad, u: number, v: number): Point =>
  lerpPoint(lerpPoint(tl, tr, u), lerpPoint(bl, br, u), v);

/** Signed area of a closed polygon in px²; positive when its corners run clockwise on screen. */
export function polygonArea(corners: readonly Point[]): number {
  let twice = 0;
  for (let i = 0; i < corners.length; i++) {
    const a = corners[i]!;
    const b = corners[(i + 1) % corners.length]!;
    twice += a.x * b.y - b.x * a.y;
  }
  return twice / 2;
}

/** True when the four corners run clockwise and no side crosses another. */
export function isConvexQuad(quad: Quad): boolean {
  return quad.every((corner, i) => cross(corner, quad[(i + 1) % 4]!, quad[(i + 2) % 4]!) > 0);
}

/**
 * The least distance in px of any corner from the line through two other corners: how far the quadrilateral is from
 * collapsing into a triangle or a line.
 */
export function cornerClearancePx(quad: Quad): number {
  let least = Infinity;
  for (let i = 0; i < 4; i++) {
    for (let j = 0; j < 4; j++) {
      for (let k = j + 1; k < 4; k++) {
        if (i === j || i === k) continue;
        least = Math.min(least, Math.abs(distanceToLine(quad[i]!, quad[j]!, quad[k]!)));
      }
    }
  }
  return least;
}

/** The same quadrilateral with its corners renamed so that the page is turned by quarter turns clockwise. */
export function turnQuad(quad: Quad, quarterTurns: number): Quad {
  const at = (i: number): Point => quad[(((i - quarterTurns) % 4) + 4) % 4]!;
  return [at(0), at(1), at(2), at(3)];
}

/**
 * Orders four corners that already follow each other round a convex quadrilateral TL, TR, BR, BL on screen: clockwise,
 * beginning with the side whose middle is highest.
 */
export function orderRing(corners: Quad): Quad {
  const ring: Quad = polygonArea(corners) < 0 ? [corners[3], corners[2], corners[1], corners[0]] : corners;
  let top = 0;
  for (let i = 1; i < 4; i++) {
    if (ring[i]!.y + ring[(i + 1) % 4]!.y < ring[top]!.y + ring[(top + 1) % 4]!.y) top = i;
  }
  return top === 0 ? ring : [ring[top]!, ring[(top + 1) % 4]!, ring[(top + 2) % 4]!, ring[(top + 3) % 4]!];
}
