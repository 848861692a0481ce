import type { Point } from '../geometry/point';
import { bilinear } from '../raster/bilinear';
import type { Plane } from '../raster/plane';

/** A square of the reference that is looked for in the frame. */
export interface Tile {
  /** Lightness. */
  readonly reference: Plane;
  /** Its first column and row, and its side, px; at least 1 px within the reference. */
  readonly left: number;
  readonly top: number;
  readonly size: number;
}

/** Steps tried; most tiles need three or four. */
const MAX_STEPS = 12;
/** The weaker eigenvalue of the structure tensor, per pixel, in squared levels: flat paper and straight rules say too little. */
const MIN_TEXTURE = 6;
/** A step shorter than this, px, ends the search. */
const SETTLED_PX = 0.02;

/** Gradients of a tile, row by row, and the sums of their products. */
interface Texture {
  readonly gx: Float32Array;
  readonly gy: Float32Array;
  readonly xx: number;
  readonly xy: number;
  readonly yy: number;
  /** Mean lightness. */
  readonly mean: number;
}

/** Central differences over a tile; null where it has too little texture to be followed. */
function textureOf({ reference: { width, data }, left, top, size }: Tile): Texture | null {
  const n = size * size;
  const gx = new Float32Array(n);
  const gy = new Float32Array(n);
  let [xx, xy, yy, mean] = [0, 0, 0, 0];
  for (let j = 0, k = 0; j < size; j++) {
    for (let i = 0; i < size; i++, k++) {
      const at = (top + j) * width + left + i;
      const dx = (data[at + 1]! - data[at - 1]!) / 2;
      const dy = (data[at + width]! - data[at - width]!) / 2;
      gx[k] = dx;
      gy[k] = dy;
      xx += dx * dx;
      xy += dx * dy;
      yy += dy * dy;
      mean += data[at]! / n;
    }
  }
  const weaker = (xx + yy) / 2 - Math.sqrt(((xx - yy) / 2) ** 2 + xy * xy);
  return weaker / n < MIN_TEXTURE || xx * yy - xy * xy <= 0 ? null : { gx, gy, xx, xy, yy, mean };
}

/** Fills `samples` with what a frame shows in a square that begins at (x, y); returns their mean. */
function readSquare({ width, data }: Plane, x: number, y: number, size: number, samples: Float32Array): number {
  const column = Math.floor(x);
  const row = Math.floor(y);
  let mean = 0;
  for (let j = 0, k = 0; j < size; j++)
    for (let i = 0; i < size; i++, k++) {
      samples[k] = bilinear(data, width, (row + j) * width + column + i, x - column, y - row);
      mean += samples[k]! / samples.length;
    }
  return mean;
}

/**
 * Where the middle of a tile lies in another frame of the same scene.
 * Method: Lucas & Kanade (IJCAI 1981), inverse-compositional (Baker & Matthews 2004), for a shift alone; a constant difference
 * of lightness is taken out. Exact to about a twentieth of a pixel.
 * @param frame - lightness, of the reference's size
 * @param start - where the middle is thought to be, px of the frame; the search goes no further than half the tile
 * @returns null where the tile has too little texture, or runs away or out of the frame
 */
export function followTile(tile: Tile, frame: Plane, start: Point): Point | null {
  const texture = textureOf(tile);
  if (texture === null) return null;
  const { reference, left, top, size } = tile;
  const { gx, gy, xx, xy, yy, mean } = texture;
  const det = xx * yy - xy * xy;
  let { x, y } = start;
  const samples = new Float32Array(size * size);
  for (let step = 0; step < MAX_STEPS; step++) {
    const ox = x - size / 2;
    const oy = y - size / 2;
    if (ox < 1 || oy < 1 || ox + size + 1 >= frame.width || oy + size + 1 >= frame.height) return null;
    const other = readSquare(frame, ox, oy, size, samples);
    let [bx, by] = [0, 0];
    for (let j = 0, k = 0; j < size; j++) {
      for (let i = 0; i < size; i++, k++) {
        const error = reference.data[(top + j) * reference.width + left + i]! - mean - (samples[k]! - other);
        bx += gx[k]! * error;
        by += gy[k]! * error;
      }
    }
    const dx = (yy * bx - xy * by) / det;
    const dy = (xx * by - xy * bx) / det;
    x += dx;
    y += dy;
    if (Math.abs(x - start.x) > size / 2 || Math.abs(y - start.y) > size / 2) return null;
    if (dx * dx + dy * dy < SETTLED_PX ** 2) break;
  }
  return { x, y };
}
