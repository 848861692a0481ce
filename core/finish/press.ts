import { PAPER_LEVEL } from '../light/paperShare';
import { boxBlur } from '../raster/boxBlur';
import { extremeFilter } from '../raster/morphology';
import { createPixelImage, type PixelImage } from '../raster/pixelImage';
import { calmness, type LitPage } from './litPage';
import { dropPepper } from './dropPepper';
import { inkPlane, smoothGrain, type InkPlane } from './inkPlane';

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
/** How much of the difference to its neighbours a pixel gains, on a calm page. */
const SHARPENED = 4.3;
/** Brightness moves the edge by up to this. */
const BRIGHTNESS_SPAN = 0.3;

/** A page's ink, ready to be cut: nothing of it hangs on a slider. Planes of one byte, the page's size. */
export interface Strokes {
  readonly ink: InkPlane;
  /** Depth below which nothing is ink. */
  readonly floor: Uint8Array;
  /** Depth from which on a pixel is the crest of a stroke. */
  readonly crest: Uint8Array;
  /** Depth of the darkest ink nearby. */
  readonly near: Uint8Array;
}

export function readStrokes(lit: LitPage): Strokes {
  // between two levels a faint rule would come out in dashes
  const small = inkPlane(lit, true);
  const smooth: InkPlane = { ...small, depth: smoothGrain(small) };
  return { ink: sharpened(smooth, lit), ...thresholds(smooth, lit) };
}

/**
 * Press: black and white only, strokes whole, no pepper.
 * @param brightness - -1 to 1: higher moves strokes' edges inwards
 * @returns grey with values 0 and 255, enlarged up to twice towards 3600 px
 */
export function press({ ink, floor, crest, near }: Strokes, brightness: number): PixelImage {
  const edgeShare = EDGE_SHARE + brightness * BRIGHTNESS_SPAN;
  // how much deeper than it must be
  const over = new Int16Array(ink.depth.length);
  for (let i = 0; i < over.length; i++) {
    const edge = (edgeShare * near[i]!) | 0;
    const least = crest[i]! < edge ? crest[i]! : edge;
    over[i] = ink.depth[i]! - (least > floor[i]! ? least : floor[i]!);
  }
  const factor = Math.min(2, ENLARGE_TO_PX / Math.max(ink.width, ink.height));
  return dropPepper(factor > 1.15 ? cutEnlarged(over, ink.width, ink.height, factor) : cut(over, ink.width, ink.height));
}

/** What the lens ran together is drawn apart before it is cut, so that small letters stay open; noise is not to be sharpened. */
function sharpened(ink: InkPlane, lit: LitPage): InkPlane {
  const amount = SHARPENED * calmness(lit);
  const soft = smoothGrain(ink);
  const depth = new Uint8ClampedArray(soft.length);
  for (let i = 0; i < depth.length; i++) depth[i] = ink.depth[i]! + amount * (ink.depth[i]! - soft[i]!);
  return { ...ink, depth };
}

function thresholds({ width, height, depth }: InkPlane, { field }: LitPage): Omit<Strokes, 'ink'> {
  const long = Math.max(width, height);
  const block = Math.max(1, Math.round(long / 900));
  const nearby = darkestNearby(depth, width, height, block, Math.max(1, Math.round((NEAR_RADIUS * long) / block)));
  const around = boxBlur(Float32Array.from(depth), width, height, Math.max(1, Math.round(CREST_RADIUS * long)), 1);
  const floor = new Uint8Array(width * height);
  const crest = new Uint8Array(width * height);
  const near = new Uint8Array(width * height);
  for (let y = 0; y < height; y++) {
    const fieldRow = Math.floor(((y + 0.5) * field.height) / height) * field.width;
    const nearRow = Math.floor(y / block) * nearby.width;
    for (let x = 0, i = y * width; x < width; x++, i++) {
      const noise = field.noise[fieldRow + Math.floor(((x + 0.5) * field.width) / width)]!;
      const least = PAPER_LEVEL * Math.max(LEAST_FLOOR, FLOOR_DEVIATIONS * GRAIN_LEFT * noise);
      floor[i] = Math.min(255, least);
      // on a crest the stroke is darker than its surroundings by a good part of its own depth
      crest[i] = Math.min(255, around[i]! * 1.5 + 4);
      near[i] = nearby.data[nearRow + Math.floor(x / block)]!;
    }
  }
  return { floor, crest, near };
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

function cut(over: Int16Array, width: number, height: number): PixelImage {
  const out = createPixelImage(width, height, 1);
  for (let i = 0; i < over.length; i++) out.data[i] = over[i]! >= 0 ? 0 : 255;
  return out;
}

/** The same cut between the pixels, read bilinearly. */
function cutEnlarged(over: Int16Array, width: number, height: number, factor: number): PixelImage {
  const toWidth = Math.round(width * factor);
  const toHeight = Math.round(height * factor);
  const out = createPixelImage(toWidth, toHeight, 1);
  const lefts = new Int32Array(toWidth);
  const rights = new Int32Array(toWidth);
  const shares = new Float32Array(toWidth);
  for (let x = 0; x < toWidth; x++) {
    const u = Math.min(width - 1, Math.max(0, ((x + 0.5) / toWidth) * width - 0.5));
    lefts[x] = u | 0;
    rights[x] = Math.min(width - 1, lefts[x]! + 1);
    shares[x] = u - lefts[x]!;
  }
  out.data.fill(255);
  const inked = Uint8Array.from({ length: height }, (_, y) => (over.subarray(y * width, (y + 1) * width).some((v) => v >= 0) ? 1 : 0));
  const row = new Float32Array(width);
  for (let y = 0; y < toHeight; y++) {
    const v = Math.min(height - 1, Math.max(0, ((y + 0.5) / toHeight) * height - 0.5));
    const above = Math.floor(v);
    const below = Math.min(height - 1, above + 1);
    // most rows of a page are bare
    if (inked[above] === 0 && inked[below] === 0) continue;
    const f = v - above;
    for (let x = 0, low = above * width, high = below * width; x < width; x++) row[x] = over[low + x]! * (1 - f) + over[high + x]! * f;
    for (let x = 0, to = y * toWidth; x < toWidth; x++, to++) {
      const left = row[lefts[x]!]!;
      if (left + (row[rights[x]!]! - left) * shares[x]! >= 0) out.data[to] = 0;
    }
  }
  return out;
}
