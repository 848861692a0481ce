import { largestByteAround } from '../raster/morphology';
import { createPixelImage, type PixelImage } from '../raster/pixelImage';
import { lumaOf } from '../raster/lightness';
import { releaseBuffers } from '../raster/releaseBuffers';
import { findInks, nearestInk, strokeColours, type Rgb } from './inkColours';
import { inkDepthOf, inkWhere, strokeDepth } from './inkDepth';
import { pageBackground } from './pageBackground';
import type { PageLayers } from './pageLayers';
import { pictureRegions } from './pictureRegions';
import { forEachRow, type PixelBox } from './pixelBox';

/** What is paler than this stays with the background: paper grain and the faintest tint. */
const LEAST_DEPTH = 14;
/** Up to this deep it must stand out from what is around by as much as that: rules of squared paper do, a tint and a stain do not. */
const SURE_DEPTH = 30;
/** So far around, px: further than a rule is wide. */
const AROUND_PX = 5;
/** Shares of a stroke's full depth at which its tones begin, from rim to body, for as many tones; a single one has its edge halfway. */
export const TONES_FROM = { 1: [0.5], 2: [0.28, 0.7], 3: [0.22, 0.48, 0.76] } as const;
/** How many tones a stroke is painted in. */
export type Tones = keyof typeof TONES_FROM;
/** Inks no deeper than this, such as printed rules, look the same in one tone. */
const PALE_DEPTH = 100;

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
 * @param depth - InkDepth.depth of this page, where it is known
 */
export function findStrokes(page: PixelImage, depth: Uint8ClampedArray = inkDepthOf(page).depth): PageStrokes {
  const { width, height } = page;
  const full = strokeDepth(depth, width, height);
  const standing = standingOut(depth, width, height);
  const { is, pixels } = inkAbove(standing, full, width, height, TONES_FROM[3][0]);
  releaseBuffers(standing);
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
  const boxes = pictureRegions(is, depth, width, height);
  for (const box of boxes) forEachRow(box, width, (from, to) => is.fill(0, from, to));
  const left = stillInk(pixels, own, is);
  const background = pageBackground(page, is, boxes);
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

/** The depth of what is deep, or deeper than what is around it; 0 for the rest. */
function standingOut(depth: Uint8ClampedArray, width: number, height: number): Uint8ClampedArray<ArrayBuffer> {
  const out = new Uint8ClampedArray(depth.length);
  for (let i = 0; i < out.length; i++) out[i] = 255 - depth[i]!;
  const palest = largestByteAround(out, width, height, AROUND_PX);
  for (let i = 0; i < out.length; i++) {
    const own = depth[i]!;
    out[i] = own >= SURE_DEPTH || own + palest[i]! - 255 >= LEAST_DEPTH ? own : 0;
  }
  releaseBuffers(palest);
  return out;
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
      if (neighbours(marked, i, width, height) < 2) continue;
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

/** How many of the eight pixels about one are marked; 2 on the border, where that is not asked. */
function neighbours(is: Uint8Array, i: number, width: number, height: number): number {
  const x = i % width;
  const y = Math.floor(i / width);
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

function cutOut({ width, channels, data }: PixelImage, box: PixelBox): PixelImage {
  const out = createPixelImage(box.width, box.height, channels);
  let to = 0;
  forEachRow(box, width, (from, end) => {
    out.data.set(data.subarray(from * channels, end * channels), to);
    to += box.width * channels;
  });
  return out;
}
