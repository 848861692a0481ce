import type { Point } from '../geometry/point';
import { bilinear } from '../raster/bilinear';

/** A smooth map of one picture's pixels onto another's: known at the nodes of a square grid, linear between them. */
export interface PlaceGrid {
  /** Distance of two nodes, px of the first picture; node (0, 0) lies at its upper left corner. */
  readonly stepPx: number;
  readonly across: number;
  readonly down: number;
  /** Where the nodes lie in the second picture, px; NaN where they are not on what both show. */
  readonly xs: Float32Array;
  readonly ys: Float32Array;
}

/**
 * Reads a map at the nodes that cover a picture.
 * @param place - where a place of the first picture lies in the second, px, or null where that is not known
 */
export function readPlaces(
  { width, height }: { readonly width: number; readonly height: number },
  stepPx: number,
  place: (at: Point) => Point | null,
): PlaceGrid {
  const across = Math.ceil(width / stepPx) + 1;
  const down = Math.ceil(height / stepPx) + 1;
  const xs = new Float32Array(across * down).fill(NaN);
  const ys = new Float32Array(across * down).fill(NaN);
  for (let j = 0, k = 0; j < down; j++)
    for (let i = 0; i < across; i++, k++) {
      const p = place({ x: i * stepPx, y: j * stepPx });
      if (p === null) continue;
      xs[k] = p.x;
      ys[k] = p.y;
    }
  return { stepPx, across, down, xs, ys };
}

/** Where a place of the first picture lies in the second, px; null where that is not known. */
export function placeAt({ stepPx, across, down, xs, ys }: PlaceGrid, x: number, y: number): Point | null {
  const i = Math.min(across - 2, Math.floor(x / stepPx));
  const j = Math.min(down - 2, Math.floor(y / stepPx));
  if (!(i >= 0 && j >= 0)) return null;
  const at = j * across + i;
  const [fx, fy] = [x / stepPx - i, y / stepPx - j];
  const px = bilinear(xs, across, at, fx, fy);
  return Number.isNaN(px) ? null : { x: px, y: bilinear(ys, across, at, fx, fy) };
}
