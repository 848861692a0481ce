/** x right, y down, pixels; (0, 0) is the image's outer top-left corner (pixel centres at .5), so outlines scale by one factor. */
export interface Point {
  readonly x: number;
  readonly y: number;
}

// asked for millions of times: a plain root is several times quicker than Math.hypot
/** Distance in pixels. */
export const distance = (a: Point, b: Point): number => Math.sqrt((a.x - b.x) ** 2 + (a.y - b.y) ** 2);

/** Twice the signed area of the triangle a, b, c; positive when the turn is clockwise on screen (y down). */
export const cross = (a: Point, b: Point, c: Point): number => (b.x - a.x) * (c.y - a.y) - (b.y - a.y) * (c.x - a.x);

/** The point at share t of the way from a to b; beyond it for t below 0 or above 1. */
export const lerpPoint = (a: Point, b: Point, t: number): Point => ({
  x: a.x + (b.x - a.x) * t,
  y: a.y + (b.y - a.y) * t,
});

/** The same place in a picture `factor` times as large. */
export const scalePoint = (p: Point, factor: number): Point => ({ x: p.x * factor, y: p.y * factor });

/** Signed distance in pixels of p from the line a→b; positive on the right-hand side of the direction of travel (y down). */
export const distanceToLine = (p: Point, a: Point, b: Point): number => cross(a, b, p) / (distance(a, b) || 1);

/** The unit normal to the right of the way from a to b (inwards, along a clockwise outline), and how long that way is; 1 where it has no length. */
export function normalOf(a: Point, b: Point): { readonly nx: number; readonly ny: number; readonly length: number } {
  const length = distance(a, b) || 1;
  return { nx: -(b.y - a.y) / length, ny: (b.x - a.x) / length, length };
}

/** Where the line through a and b meets the line through c and d; null where they hardly cross. */
export function lineCrossing(a: Point, b: Point, c: Point, d: Point): Point | null {
  const rx = b.x - a.x;
  const ry = b.y - a.y;
  const sx = d.x - c.x;
  const sy = d.y - c.y;
  const det = rx * sy - ry * sx;
  if (Math.abs(det) < 1e-3 * Math.hypot(rx, ry) * Math.hypot(sx, sy)) return null;
  const t = ((c.x - a.x) * sy - (c.y - a.y) * sx) / det;
  return { x: a.x + t * rx, y: a.y + t * ry };
}
