import { PAPER_LEVEL } from '../light/paperShare';
import { boxBlur } from '../raster/boxBlur';
import { extremeFilter } from '../raster/morphology';
import { createPixelImage, type PixelImage } from '../raster/pixelImage';
import type { LitPage } from './litPage';
import { dropPepper } from './dropPepper';
import { inkPlane, smoothGrain, type InkPlane } from './inkPlane';
import type { LightSettings } from './light';

/*
 * Two levels. A pixel is ink where it is clearly darker than the paper's own scatter, and
 *   - at least half as dark as the darkest ink nearby: that is where a blurred stroke's true edge lies; or
 *   - on the crest of a stroke (the second difference across it is negative): so a faint stroke beside a dark one stays.
 * The page is sharpened before it is cut, so that small letters stay open, and small detail is enlarged, so that a stroke's
 * edge is not a staircase. What is left of grain, spots too small or too pale to have been written, goes.
 */

/** Long side up to which a page is enlarged, by at most twice. */
const ENLARGE_TO_PX = 3600;
/** An edge lies where this share of the nearby ink's depth is reached. */
const EDGE_SHARE = 0.45;
/** Standard deviations of the smoothed paper below which nothing is ink. */
const FLOOR_DEVIATIONS = 2.6;
const GRAIN_LEFT = 0.6;
const LEAST_FLOOR = 0.045;
/** The surroundings a crest is seen against, as a share of the long side: 1 mm of A4. */
const CREST_RADIUS = 0.0022;
/** Half the square in which the darkest ink nearby is sought: 1.4 mm of A4. */
const NEAR_RADIUS = 0.0048;
/** How much of the difference to its neighbours a pixel gains, and the paper's noise from which on it gains none. */
const SHARPENED = 6;
const NOISE_TO = 0.014;
/** Brightness moves the edge by up to this. */
const BRIGHTNESS_SPAN = 0.3;

/**
 * Press: black and white only, strokes whole, no pepper.
 * @returns grey with values 0 and 255, enlarged up to twice towards 3600 px
 */
export function press(lit: LitPage, { brightness }: LightSettings): PixelImage {
  // between two levels a faint rule would come out in dashes
  const small = inkPlane(lit, true);
  const factor = Math.min(2, ENLARGE_TO_PX / Math.max(small.width, small.height));
  const smooth: InkPlane = { ...small, depth: smoothGrain(small) };
  const threshold = thresholdPlane(smooth, lit, EDGE_SHARE + brightness * BRIGHTNESS_SPAN);
  const sharp = sharpened(smooth, lit);
  const out = factor > 1.15 ? cutEnlarged(sharp, threshold, factor) : cut(sharp, threshold);
  return dropPepper(out);
}

/** What the lens ran together is drawn apart before it is cut, so that small letters stay open; noise is not to be sharpened. */
function sharpened(ink: InkPlane, { field }: LitPage): InkPlane {
  const noise = field.noise.reduce((sum, each) => sum + each, 0) / field.noise.length;
  const amount = SHARPENED * Math.max(0, 1 - noise / NOISE_TO);
  const soft = smoothGrain(ink);
  const depth = new Uint8ClampedArray(soft.length);
  for (let i = 0; i < depth.length; i++) depth[i] = ink.depth[i]! + amount * (ink.depth[i]! - soft[i]!);
  return { ...ink, depth };
}

/** What depth is ink at every place, one byte. */
function thresholdPlane({ width, height, depth }: InkPlane, { field }: LitPage, edgeShare: number): Uint8Array {
  const long = Math.max(width, height);
  const block = Math.max(1, Math.round(long / 900));
  const near = darkestNearby(depth, width, height, block, Math.max(1, Math.round((NEAR_RADIUS * long) / block)));
  const around = boxBlur(Float32Array.from(depth), width, height, Math.max(1, Math.round(CREST_RADIUS * long)), 1);
  const out = new Uint8Array(width * height);
  for (let y = 0; y < height; y++) {
    const fieldRow = Math.floor(((y + 0.5) * field.height) / height) * field.width;
    const nearRow = Math.floor(y / block) * near.width;
    for (let x = 0, i = y * width; x < width; x++, i++) {
      const noise = field.noise[fieldRow + Math.floor(((x + 0.5) * field.width) / width)]!;
      const floor = PAPER_LEVEL * Math.max(LEAST_FLOOR, FLOOR_DEVIATIONS * GRAIN_LEFT * noise);
      const edge = edgeShare * near.data[nearRow + Math.floor(x / block)]!;
      // on a crest the stroke is darker than its surroundings by a good part of its own depth
      const crest = Math.max(floor, around[i]! * 1.5 + 4);
      const least = Math.max(floor, edge);
      out[i] = Math.min(255, crest < least ? crest : least);
    }
  }
  return out;
}

/** Darkest value of a wide square around every block. */
function darkestNearby(depth: Uint8ClampedArray, width: number, height: number, block: number, radius: number): { width: number; data: Float32Array } {
  const w = Math.ceil(width / block);
  const h = Math.ceil(height / block);
  const most = new Float32Array(w * h);
  for (let y = 0; y < height; y++) {
    const row = Math.floor(y / block) * w;
    for (let x = 0, i = y * width; x < width; x++, i++) {
      const at = row + Math.floor(x / block);
      if (depth[i]! > most[at]!) most[at] = depth[i]!;
    }
  }
  return { width: w, data: extremeFilter(most, w, h, radius, 'largest') };
}

function cut({ width, height, depth }: InkPlane, threshold: Uint8Array): PixelImage {
  const out = createPixelImage(width, height, 1);
  for (let i = 0; i < depth.length; i++) out.data[i] = depth[i]! >= threshold[i]! ? 0 : 255;
  return out;
}

/** The same cut between the pixels: depth and threshold are read bilinearly. */
function cutEnlarged({ width, height, depth }: InkPlane, threshold: Uint8Array, factor: number): PixelImage {
  const toWidth = Math.round(width * factor);
  const toHeight = Math.round(height * factor);
  const out = createPixelImage(toWidth, toHeight, 1);
  const over = new Int16Array(depth.length);
  for (let i = 0; i < over.length; i++) over[i] = depth[i]! - threshold[i]!;
  const row = new Float32Array(width);
  for (let y = 0; y < toHeight; y++) {
    const v = Math.min(height - 1, Math.max(0, ((y + 0.5) / toHeight) * height - 0.5));
    const low = Math.floor(v) * width;
    const high = Math.min(height - 1, Math.floor(v) + 1) * width;
    const f = v - Math.floor(v);
    for (let x = 0; x < width; x++) row[x] = over[low + x]! * (1 - f) + over[high + x]! * f;
    for (let x = 0, to = y * toWidth; x < toWidth; x++, to++) {
      const u = Math.min(width - 1, Math.max(0, ((x + 0.5) / toWidth) * width - 0.5));
      const i = u | 0;
      const next = i + 1 < width ? i + 1 : i;
      out.data[to] = row[i]! + (row[next]! - row[i]!) * (u - i) >= 0 ? 0 : 255;
    }
  }
  return out;
}
