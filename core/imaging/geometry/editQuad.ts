import { lineCrossing, type Point } from './point';
import { mapQuad, type Quad } from './quad';

/**
 * The quadrilateral with one side laid along another line; the neighbouring sides grow or shrink along their own lines.
 * @param side - 0 top, 1 right, 2 bottom, 3 left
 * @returns null where the line does not cross the neighbouring sides
 */
export function laySide(quad: Quad, side: number, from: Point, to: Point): Quad | null {
  const a = quad[side]!;
  const b = quad[(side + 1) % 4]!;
  const before = quad[(side + 3) % 4]!;
  const after = quad[(side + 2) % 4]!;
  const start = lineCrossing(before, a, from, to);
  const end = lineCrossing(after, b, from, to);
  if (start === null || end === null) return null;
  return mapQuad(quad, (p, i) => (i === side ? start : i === (side + 1) % 4 ? end : p));
}

/**
 * The quadrilateral with one side moved parallel to itself.
 * @param outwardsPx - how far, away from the page's inside; negative moves it in
 */
export function moveSide(quad: Quad, side: number, outwardsPx: number): Quad | null {
  const a = quad[side]!;
  const b = quad[(side + 1) % 4]!;
  const length = Math.hypot(b.x - a.x, b.y - a.y) || 1;
  const shift = { x: ((b.y - a.y) / length) * outwardsPx, y: (-(b.x - a.x) / length) * outwardsPx };
  return laySide(quad, side, { x: a.x + shift.x, y: a.y + shift.y }, { x: b.x + shift.x, y: b.y + shift.y });
}

/** The rectangle round the quadrilateral that lies along its mean direction: turning it straightens, and nothing else. */
export function straightRectangle(quad: Quad): Quad {
  const [tl, tr, br, bl] = quad;
  const angle = Math.atan2(
    tr.y - tl.y + (br.y - bl.y) - (bl.x - tl.x) - (br.x - tr.x),
    tr.x - tl.x + (br.x - bl.x) + (bl.y - tl.y) + (br.y - tr.y),
  );
  const cos = Math.cos(angle);
  const sin = Math.sin(angle);
  const along = quad.map((p) => p.x * cos + p.y * sin);
  const across = quad.map((p) => p.y * cos - p.x * sin);
  const back = (u: number, v: number): Point => ({ x: u * cos - v * sin, y: u * sin + v * cos });
  const [left, right] = [Math.min(...along), Math.max(...along)];
  const [top, bottom] = [Math.min(...across), Math.max(...across)];
  return [back(left, top), back(right, top), back(right, bottom), back(left, bottom)];
}
