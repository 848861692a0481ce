import type { Point } from '../geometry/point';
import type { PageShape } from './flattenPage';
import { pageToPhoto } from './placeOnPage';

/** Squares along the page's short side, about. */
const SQUARES = 12;
/** Places of a line. */
const PLACES = 33;

/**
 * A grid of near squares on the page, as it lies in the photo: how the page bends can be seen by it.
 * @returns its lines from edge to edge, px of the photo
 */
export function pageGrid(shape: PageShape): Point[][] {
  const at = pageToPhoto(shape);
  const { width, height } = shape.size;
  const square = Math.min(width, height) / SQUARES;
  const [columns, rows] = [Math.round(width / square), Math.round(height / square)];
  const shares = (count: number): number[] => Array.from({ length: count + 1 }, (_, k) => k / count);
  return [
    ...shares(columns).map((u) => shares(PLACES - 1).map((v) => at(u, v))),
    ...shares(rows).map((v) => shares(PLACES - 1).map((u) => at(u, v))),
  ];
}
