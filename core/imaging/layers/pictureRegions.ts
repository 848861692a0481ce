import { connectedRegions, type Region } from '../raster/connectedRegions';
import type { PixelImage } from '../raster/pixelImage';
import { inkDepthOf, inkWhere, strokeDepth } from './inkDepth';
import type { PixelBox } from './pixelBox';

/** Side of the blocks a page is looked at in, px: 3 mm at 200 dpi. */
const BLOCK_PX = 24;
/** A block belongs to a picture where so much of it is covered. */
const COVERED = 0.55;
/** Blocks that touch are a picture where their strokes differ in depth by so much (standard deviation): a filled box has but one depth, whatever is left white in it. */
const TONES = 17;
/** Pictures smaller than this many blocks are blots and banners. */
const LEAST_BLOCKS = 16;

/** Filled boxes on a page at most: each is an ink of its own. */
const MOST_FILLED = 4;

/**
 * PixelBoxes around places that are covered with many tones: there is no stroke to be found in them.
 * @param levels - of each pixel: with PageStrokes.full a box filled with one ink is no picture; with PageStrokes.depth the soft edges
 *   of white print in it are tones
 */
export function pictureRegions(
  is: Uint8ClampedArray,
  levels: Uint8ClampedArray,
  width: number,
  height: number,
): PixelBox[] {
  return merged(coveredRegions(is, levels, width, height).flatMap(({ box, isPicture }) => (isPicture ? [box] : [])));
}

/** A box that is filled with one ink, and how deep that is on the mean. */
export interface FilledBox {
  readonly box: PixelBox;
  readonly depth: number;
}

/** @param full - PageStrokes.full */
export const filledBoxes = (
  is: Uint8ClampedArray,
  full: Uint8ClampedArray,
  width: number,
  height: number,
): readonly FilledBox[] =>
  coveredRegions(is, full, width, height)
    .filter(({ isPicture }) => !isPicture)
    .slice(0, MOST_FILLED);

/** A box that white is printed on is this deep at least; black is 255. */
const DARK_DEPTH = 110;
/** The share of a stroke's full depth from which on it is ink. */
const INK_SHARE = 0.5;

/**
 * Filled boxes that are dark: what stands in them is white.
 * @param page - finished on white paper: RGB, RGBA or grey
 */
export function darkBoxes(page: PixelImage): readonly FilledBox[] {
  const { width, height } = page;
  const { depth } = inkDepthOf(page);
  const full = strokeDepth(depth, width, height);
  const { is } = inkWhere(depth, full, DARK_DEPTH, INK_SHARE);
  return filledBoxes(new Uint8ClampedArray(is.buffer), full, width, height).filter(
    ({ depth: own }) => own >= DARK_DEPTH,
  );
}

function coveredRegions(
  is: Uint8ClampedArray,
  levels: Uint8ClampedArray,
  width: number,
  height: number,
): (FilledBox & { readonly isPicture: boolean })[] {
  const w = Math.floor(width / BLOCK_PX);
  const h = Math.floor(height / BLOCK_PX);
  const tones = blockTones(is, levels, width, w, h);
  const mask = new Uint8Array(w * h);
  for (let k = 0; k < mask.length; k++) mask[k] = tones[3 * k]! > COVERED * BLOCK_PX ** 2 ? 1 : 0;
  return connectedRegions(mask, w, h)
    .filter(({ pixels }) => pixels.length >= LEAST_BLOCKS)
    .map((region) => {
      const { mean, deviation } = tonesOf(region.pixels, tones);
      return { box: boxAround(region, width, height), depth: mean, isPicture: deviation > TONES };
    });
}

/** How many pixels of each of w × h blocks are ink, the sum of their strokes’ depths, and of their squares: three numbers a block. */
function blockTones(
  is: Uint8ClampedArray,
  levels: Uint8ClampedArray,
  width: number,
  w: number,
  h: number,
): Float64Array {
  const tones = new Float64Array(3 * w * h);
  const end = h * BLOCK_PX * width;
  for (let i = is.indexOf(1), y = 0; i !== -1 && i < end; i = is.indexOf(1, i)) {
    while (i >= (y + 1) * width) y++;
    const left = y * width;
    const blocks = Math.floor(y / BLOCK_PX) * w;
    for (; i < left + width && is[i] === 1; i++) {
      const block = Math.floor((i - left) / BLOCK_PX);
      // what is left over on the right is in none
      if (block >= w) continue;
      const at = 3 * (blocks + block);
      const level = levels[i]!;
      tones[at]!++;
      tones[at + 1]! += level;
      tones[at + 2]! += level * level;
    }
  }
  return tones;
}

/** Mean and standard deviation of strokes’ depth over some blocks. */
function tonesOf(
  blocks: readonly number[],
  tones: Float64Array,
): { readonly mean: number; readonly deviation: number } {
  const total = (which: number): number => blocks.reduce((all, k) => all + tones[3 * k + which]!, 0);
  const [count, sum, squares] = [total(0), total(1), total(2)];
  return { mean: sum / count, deviation: Math.sqrt(Math.max(0, squares / count - (sum / count) ** 2)) };
}

/** The box of some blocks and one block around them, in px. */
function boxAround({ left, top, right, bottom }: Region, width: number, height: number): PixelBox {
  const x = Math.max(0, (left - 1) * BLOCK_PX);
  const y = Math.max(0, (top - 1) * BLOCK_PX);
  return {
    x,
    y,
    width: Math.min(width, (right + 2) * BLOCK_PX) - x,
    height: Math.min(height, (bottom + 2) * BLOCK_PX) - y,
  };
}

/** PixelBoxes that overlap become one. */
function merged(boxes: readonly PixelBox[]): PixelBox[] {
  const out: PixelBox[] = [];
  for (let box of boxes) {
    for (let k = out.length - 1; k >= 0; k--) {
      const other = out[k]!;
      if (
        box.x > other.x + other.width ||
        other.x > box.x + box.width ||
        box.y > other.y + other.height ||
        other.y > box.y + box.height
      )
        continue;
      const x = Math.min(box.x, other.x);
      const y = Math.min(box.y, other.y);
      box = {
        x,
        y,
        width: Math.max(box.x + box.width, other.x + other.width) - x,
        height: Math.max(box.y + box.height, other.y + other.height) - y,
      };
      out.splice(k, 1);
      k = out.length;
    }
    out.push(box);
  }
  return out;
}
