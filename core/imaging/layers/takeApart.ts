import { lumaOf } from '../raster/lightness';
import { withWorkspace } from '../kernels/workspace';
import { fillMasked } from '../light/fillMasked';
import { connectedRegions } from '../raster/connectedRegions';
import { createPixelImage, type PixelImage } from '../raster/pixelImage';
import { largestByteAround } from '../raster/morphology';
import { releaseBuffers } from '../raster/releaseBuffers';
import { findInks, nearestInk, strokeColours, type Rgb } from './inkColours';
import { inkWhere, strokeDepth, inkDepthOf } from './inkDepth';
import type { BilevelRows } from '../jbig2/jbig2';

/*
 * A finished page is taken apart into what it was made of: strokes in a few inks, each a mask of two levels and one colour;
 * pictures, kept as pictures; and what is behind them, which is so smooth that a few dots per inch will do. With soft edges a
 * stroke is several masks, from the pale rim that a lens gives it to its body: laid over each other they look as the page did.
 * Each covers the darker ones too, and all have the same box, so that no reader, whatever it enlarges, leaves a seam between them.
 */

/** A part of the page, in px of it. */
export interface Box {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

/** All that is painted in one colour. */
export interface InkMask {
  readonly colour: Rgb;
  /** 1 for each of the inks whose pixels it paints: its own, and those of the darker tones over it. */
  readonly paints: Uint8Array;
}

export interface PageLayers {
  /** What is behind the ink, BACKGROUND_STEP times smaller than the page; null where that is plain white. */
  readonly background: PixelImage | null;
  /** Painted in order. */
  readonly inks: readonly InkMask[];
  /** All pixels that are painted, row by row, as indices into the page. */
  readonly inkPixels: Uint32Array;
  /** Which of the inks is the last to paint each of them. */
  readonly paintedBy: Uint8Array;
  /** Around all ink: every mask has this box. */
  readonly inkBox: Box;
  /** Painted last. */
  readonly pictures: readonly { readonly box: Box; readonly picture: PixelImage }[];
}

/** What is paler than this stays with the background: paper grain and the faintest tint. */
const LEAST_DEPTH = 30;
/** Shares of a stroke's full depth at which its tones begin, from rim to body, for as many tones; a single one has its edge halfway. */
const TONES_FROM = { 1: [0.5], 2: [0.28, 0.7], 3: [0.22, 0.48, 0.76] } as const;
/** How many tones a stroke is painted in. */
export type Tones = keyof typeof TONES_FROM;
/** Inks no deeper than this, such as printed rules, look the same in one tone. */
const PALE_DEPTH = 100;
/** So many pixels around ink are not asked what is behind it: they are its blur. */
const BLUR_PX = 2;
export const BACKGROUND_STEP = 4;
/** A background as white as this everywhere is left to the paper. */
const WHITE_FROM = 249;

/** What is written on a page, before it is said in how many tones it is painted. */
export interface PageStrokes {
  /** Of every pixel of the page, row by row, 0 (white) to 255: how deep its ink is, and how deep the stroke is that it belongs to. */
  readonly depth: Uint8ClampedArray;
  readonly full: Uint8ClampedArray;
  readonly inks: readonly Rgb[];
  /** Whether each ink is so pale that one tone does for it. */
  readonly pale: readonly boolean[];
  /** All pixels that are ink in any number of tones, as indices into the page, and which ink each is. */
  readonly pixels: Uint32Array;
  readonly own: Uint8Array;
  readonly background: PixelImage | null;
  readonly pictures: PageLayers['pictures'];
}

/**
 * Finds what is written on a page, and what is behind it.
 * @param page - finished on white paper: RGB, RGBA or grey
 * @param depth - PageTones.depth of this page, where it is known
 */
export function findStrokes(page: PixelImage, depth: Uint8ClampedArray = inkDepthOf(page).depth): PageStrokes {
  const { width, height } = page;
  const full = strokeDepth(depth, width, height);
  const { is, pixels } = inkAbove(depth, full, width, height, TONES_FROM[3][0]);
  const colours = strokeColours(page, depth, pixels);
  const inks = findInks(colours);
  const pale = inks.map(([r, g, b]) => 255 - lumaOf(r, g, b) < PALE_DEPTH);
  const own = new Uint8Array(pixels.length);
  for (let k = 0; k < own.length; k++) {
    const ink = nearestInk(colours[3 * k]!, colours[3 * k + 1]!, colours[3 * k + 2]!, inks);
    own[k] = ink;
    const i = pixels[k]!;
    if (pale[ink] === true && depth[i]! < TONES_FROM[1][0] * full[i]!) is[i] = 0;
  }
  const boxes = findPictures(is, depth, width, height);
  for (const box of boxes) forEachRow(box, width, (from, to) => is.fill(0, from, to));
  const left = stillInk(pixels, own, is);
  const background = backgroundOf(page, is, boxes);
  releaseBuffers(is, colours);
  return {
    depth,
    full,
    inks,
    pale,
    ...left,
    background,
    pictures: boxes.map((box) => ({ box, picture: cutOut(page, box) })),
  };
}

/**
 * Takes a page apart.
 * @param page - finished on white paper: RGB, RGBA or grey
 * @param tones - 1 has hard edges and takes about half the bytes of 2
 * @param strokes - of this page, where they are known
 */
export function separateLayers(page: PixelImage, tones: Tones, strokes: PageStrokes = findStrokes(page)): PageLayers {
  const { depth, full, inks, pale, pixels, own, background, pictures } = strokes;
  const tonesFrom = TONES_FROM[tones];
  const inkPixels = new Uint32Array(pixels.length);
  const labels = new Uint8Array(pixels.length);
  let count = 0;
  for (let k = 0; k < pixels.length; k++) {
    const i = pixels[k]!;
    let tone = 0;
    if (pale[own[k]!] !== true) {
      const deepest = full[i]!;
      if (depth[i]! < tonesFrom[0] * deepest) continue;
      while (tone + 1 < tonesFrom.length && depth[i]! >= tonesFrom[tone + 1]! * deepest) tone++;
    }
    labels[count] = tone * inks.length + own[k]!;
    inkPixels[count++] = i;
  }
  const painted = inkPixels.subarray(0, count);
  return { background, pictures, inkPixels: painted, ...masksOf(page, labels, painted, inks.length, tonesFrom.length) };
}

/** The pixels that are ink, marked on the page and as indices into it; a pixel alone is grain. */
function inkAbove(
  depth: Uint8ClampedArray,
  full: Uint8ClampedArray,
  width: number,
  height: number,
  share: number,
): { readonly is: Uint8ClampedArray; readonly pixels: Uint32Array } {
  const { is: marked, count: most } = inkWhere(depth, full, LEAST_DEPTH, share);
  const is = new Uint8ClampedArray(marked.length);
  const found = new Uint32Array(most);
  let count = 0;
  for (let i = marked.indexOf(1); i !== -1; i = marked.indexOf(1, i)) {
    for (; marked[i] === 1; i++) {
      if (neighbours(marked, i, i % width, Math.floor(i / width), width, height) < 2) continue;
      is[i] = 1;
      found[count++] = i;
    }
  }
  releaseBuffers(marked);
  return { is, pixels: found.subarray(0, count) };
}

/** Those of them that are still marked. */
function stillInk(pixels: Uint32Array, own: Uint8Array, is: Uint8ClampedArray): Pick<PageStrokes, 'pixels' | 'own'> {
  let count = 0;
  for (let k = 0; k < pixels.length; k++) {
    if (is[pixels[k]!] === 0) continue;
    pixels[count] = pixels[k]!;
    own[count++] = own[k]!;
  }
  return { pixels: pixels.subarray(0, count), own: own.subarray(0, count) };
}

function neighbours(is: Uint8Array, i: number, x: number, y: number, width: number, height: number): number {
  if (x === 0 || y === 0 || x === width - 1 || y === height - 1) return 2;
  return (
    is[i - 1]! +
    is[i + 1]! +
    is[i - width]! +
    is[i + width]! +
    is[i - width - 1]! +
    is[i - width + 1]! +
    is[i + width - 1]! +
    is[i + width + 1]!
  );
}

function forEachRow({ x, y, width, height }: Box, stride: number, row: (from: number, to: number) => void): void {
  for (let v = y; v < y + height; v++) row(v * stride + x, v * stride + x + width);
}

const BLOCK_PX = 24;
/** A block belongs to a picture where so much of it is covered. */
const COVERED = 0.55;
/** Blocks that touch are a picture where their tones differ by so much (standard deviation): a filled box has but one. */
const TONES = 17;
/** Pictures smaller than this many blocks are blots and banners. */
const LEAST_BLOCKS = 16;

/** Boxes around places that are covered with many tones: there is no stroke to be found in them. */
function findPictures(is: Uint8ClampedArray, depth: Uint8ClampedArray, width: number, height: number): Box[] {
  const w = Math.floor(width / BLOCK_PX);
  const h = Math.floor(height / BLOCK_PX);
  const mask = new Uint8Array(w * h);
  const tones = new Float64Array(3 * w * h);
  for (let v = 0, k = 0; v < h; v++) {
    for (let u = 0; u < w; u++, k++) {
      tones.set(blockTones(is, depth, width, u * BLOCK_PX, v * BLOCK_PX), 3 * k);
      mask[k] = tones[3 * k]! > COVERED * BLOCK_PX ** 2 ? 1 : 0;
    }
  }
  const boxes = connectedRegions(mask, w, h)
    .filter(({ pixels }) => pixels.length >= LEAST_BLOCKS && spread(pixels, tones) > TONES)
    .map(({ left, top, right, bottom }) => around(left, top, right, bottom, width, height));
  return merged(boxes);
}

/** How many pixels of a block are ink, the sum of their depths, and of their squares. */
function blockTones(
  is: Uint8ClampedArray,
  depth: Uint8ClampedArray,
  width: number,
  x: number,
  y: number,
): [number, number, number] {
  let covered = 0;
  let sum = 0;
  let squares = 0;
  for (let v = y; v < y + BLOCK_PX; v++) {
    for (let i = v * width + x; i < v * width + x + BLOCK_PX; i++) {
      if (is[i] === 0) continue;
      covered++;
      sum += depth[i]!;
      squares += depth[i]! ** 2;
    }
  }
  return [covered, sum, squares];
}

/** Standard deviation of depth over some blocks. */
function spread(blocks: readonly number[], tones: Float64Array): number {
  const total = (which: number): number => blocks.reduce((all, k) => all + tones[3 * k + which]!, 0);
  const [count, sum, squares] = [total(0), total(1), total(2)];
  return Math.sqrt(Math.max(0, squares / count - (sum / count) ** 2));
}

/** The box of some blocks and one block around them, in px. */
function around(left: number, top: number, right: number, bottom: number, width: number, height: number): Box {
  const x = Math.max(0, (left - 1) * BLOCK_PX);
  const y = Math.max(0, (top - 1) * BLOCK_PX);
  return {
    x,
    y,
    width: Math.min(width, (right + 2) * BLOCK_PX) - x,
    height: Math.min(height, (bottom + 2) * BLOCK_PX) - y,
  };
}

/** Boxes that overlap become one. */
function merged(boxes: readonly Box[]): Box[] {
  const out: Box[] = [];
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

function cutOut({ width, channels, data }: PixelImage, box: Box): PixelImage {
  const out = createPixelImage(box.width, box.height, channels);
  let to = 0;
  forEachRow(box, width, (from, end) => {
    out.data.set(data.subarray(from * channels, end * channels), to);
    to += box.width * channels;
  });
  return out;
}

/** A mask for every tone of every ink that is there, in the mean colour of what it alone paints; palest first. */
function masksOf(
  { width, channels, data }: PixelImage,
  labelled: Uint8Array,
  inkPixels: Uint32Array,
  inks: number,
  tones: number,
): Pick<PageLayers, 'inks' | 'paintedBy' | 'inkBox'> {
  const labels = inks * tones;
  const counts = new Uint32Array(labels);
  const sums = new Float64Array(3 * labels);
  let [left, right] = [width, -1];
  for (let k = 0; k < inkPixels.length; k++) {
    const i = inkPixels[k]!;
    const own = labelled[k]!;
    const x = i % width;
    if (x < left) left = x;
    if (x > right) right = x;
    counts[own]!++;
    for (let c = 0; c < 3; c++) sums[3 * own + c]! += data[i * channels + (channels === 1 ? 0 : c)]!;
  }
  const [top, bottom] =
    inkPixels.length === 0
      ? [0, -1]
      : ([inkPixels[0]!, inkPixels.at(-1)!].map((i) => Math.floor(i / width)) as [number, number]);
  const there = Array.from({ length: labels }, (_, own) => own).filter((own) => counts[own]! > 0);
  const place = new Uint8Array(labels);
  there.forEach((own, k) => (place[own] = k));
  const paintedBy = new Uint8Array(inkPixels.length);
  for (let k = 0; k < paintedBy.length; k++) paintedBy[k] = place[labelled[k]!]!;
  return {
    inks: there.map((own) => {
      const paints = new Uint8Array(there.length);
      for (let darker = own; darker < labels; darker += inks) if (counts[darker]! > 0) paints[place[darker]!] = 1;
      const mean = (c: number): number => Math.round(sums[3 * own + c]! / counts[own]!);
      return { colour: [mean(0), mean(1), mean(2)] as Rgb, paints };
    }),
    paintedBy,
    inkBox: { x: left, y: top, width: Math.max(0, right - left + 1), height: bottom - top + 1 },
  };
}

/**
 * An ink's mask for the coder, the size of PageLayers.inkBox; its rows may be asked for in any order.
 * @param width - of the page, px
 */
export function inkRows({ inkPixels, paintedBy, inkBox }: PageLayers, { paints }: InkMask, width: number): BilevelRows {
  return {
    width: inkBox.width,
    height: inkBox.height,
    row(y, into, extent) {
      const from = (inkBox.y + y) * width + inkBox.x;
      const end = from + inkBox.width;
      for (let next = firstFrom(inkPixels, from); next < inkPixels.length && inkPixels[next]! < end; next++) {
        if (paints[paintedBy[next]!] === 0) continue;
        const x = inkPixels[next]! - from;
        into[x] = 1;
        if (extent[1]! < 0) extent[0] = x;
        extent[1] = x;
      }
    },
  };
}

/** The first of rising numbers that is not below one, by halving; their count where all are below it. */
function firstFrom(rising: Uint32Array, least: number): number {
  let [low, high] = [0, rising.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (rising[middle]! < least) low = middle + 1;
    else high = middle;
  }
  return low;
}

/** The page without its ink, small and smooth; null where nothing is left. */
function backgroundOf(
  { width, height, channels, data }: PixelImage,
  is: Uint8ClampedArray,
  pictures: readonly Box[],
): PixelImage | null {
  const covered = largestByteAround(is, width, height, BLUR_PX);
  for (const box of pictures) forEachRow(box, width, (from, to) => covered.fill(1, from, to));
  const w = Math.ceil(width / BACKGROUND_STEP);
  const h = Math.ceil(height / BACKGROUND_STEP);
  const out = createPixelImage(w, h, channels === 1 ? 1 : 3);
  const means = Array.from({ length: out.channels }, () => new Float32Array(w * h));
  const unknown = new Uint8Array(w * h);
  const most = BACKGROUND_STEP * width;
  const darkest = withWorkspace((ws) => {
    const pixels = ws.clamped(most * channels);
    const masked = ws.clamped(most);
    const sums = ws.i32(4 * w);
    const found = new Int32Array(4 * w);
    let least = 255;
    for (let v = 0; v < h; v++) {
      const from = v * most;
      const end = Math.min(width * height, from + most);
      pixels.set(data.subarray(from * channels, end * channels));
      masked.set(covered.subarray(from, end));
      ws.kernels.sumBlocks(pixels.at, masked.at, width, (end - from) / width, channels, sums.at);
      sums.copyInto(found, 0);
      for (let u = 0, to = v * w; u < w; u++, to++) {
        const count = found[4 * u + 3]!;
        if (count === 0) {
          unknown[to] = 1;
          continue;
        }
        for (let c = 0; c < means.length; c++) {
          const mean = found[4 * u + c]! / count;
          means[c]![to] = mean;
          if (mean < least) least = mean;
        }
      }
    }
    return least;
  });
  // what is filled in lies between what is known
  releaseBuffers(covered);
  if (darkest >= WHITE_FROM) return null;
  means.forEach((plane, c) => {
    const smooth = fillMasked(plane, unknown, w, h);
    for (let i = 0; i < smooth.length; i++) out.data[i * out.channels + c] = smooth[i]!;
  });
  return out;
}
