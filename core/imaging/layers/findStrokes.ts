import { withWorkspace } from '../kernels/workspace';
import { smallestByteAround } from '../raster/morphology';
import { createPixelImage, type PixelImage } from '../raster/pixelImage';
import { releaseBuffers } from '../raster/releaseBuffers';
import { inkDepthOf, inkWhere, strokeDepth } from './inkDepth';
import { pageBackground } from './pageBackground';
import { inksOf, LEAST_DEPTH, whichFilled, type PageInks } from './pageInks';
import type { PageLayers } from './pageLayers';
import { paleRules, type PaleRules } from './paleRules';
import { filledBoxes, pictureRegions } from './pictureRegions';
import { forEachRow, type PixelBox } from './pixelBox';

/** Up to this deep it must stand out from what is around by as much as that: rules of squared paper do, a tint and a stain do not. */
const SURE_DEPTH = 30;
/** So far around, px: further than a rule is wide. */
const AROUND_PX = 5;
/** The share of a stroke's full depth from which on it is ink, where that is to have soft edges; and where they are to be hard. */
export const RIM_SHARE = 0.22;
export const HARD_SHARE = 0.5;
/** How many tones a stroke is painted in. */
export type Tones = 1 | 2 | 3;
/** What is written on a page, before it is said in how many tones it is painted. */
export interface PageStrokes extends PageInks {
  /** Of every pixel of the page, row by row, 0 (white) to 255: how deep its ink is, and how deep the stroke is that it belongs to. */
  readonly depth: Uint8ClampedArray;
  readonly full: Uint8ClampedArray;
  readonly rules: PaleRules;
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
 * @param filledAs - what a box filled with one ink is taken for, with what is left white in it
 */
export function findStrokes(
  page: PixelImage,
  depth: Uint8ClampedArray<ArrayBuffer> = inkDepthOf(page).depth,
  filledAs: 'ink' | 'picture' = 'ink',
): PageStrokes {
  const { width, height } = page;
  const full = strokeDepth(depth, width, height);
  const standing = standingOut(depth, width, height);
  const rules = paleRules(depth, full, width);
  const { is, pixels } = inkAbove(standing, full, rules.is, width, height);
  releaseBuffers(standing);
  const filled = filledAs === 'ink' ? filledBoxes(is, full, width, height) : [];
  const inFilled = whichFilled(pixels, full, width, filled);
  const { inks, pale, boxInks, own, colours } = inksOf(page, { depth, full }, pixels, rules, inFilled);
  for (let k = 0; k < own.length; k++) {
    const i = pixels[k]!;
    if (pale[own[k]!] === true && rules.is[i] === 0 && depth[i]! < HARD_SHARE * full[i]!) is[i] = 0;
  }
  const boxes = pictureRegions(is, filledAs === 'ink' ? full : depth, width, height);
  for (const box of boxes) forEachRow(box, width, (from, to) => is.fill(0, from, to));
  const left = stillInk(pixels, own, is);
  const background = pageBackground(page, is, boxes);
  releaseBuffers(is, colours);
  return {
    depth,
    full,
    rules,
    inks,
    pale,
    boxInks,
    ...left,
    background,
    pictures: boxes.map((box) => ({ box, picture: cutOut(page, box) })),
  };
}

/** The depth of what is deep, or deeper than what is around it; 0 for the rest. */
function standingOut(
  depth: Uint8ClampedArray<ArrayBuffer>,
  width: number,
  height: number,
): Uint8ClampedArray<ArrayBuffer> {
  const palest = smallestByteAround(depth, width, height, AROUND_PX);
  const out = withWorkspace((ws) => {
    const depths = ws.of(depth);
    ws.kernels.standOut(depths.at, ws.of(palest).at, depth.length, SURE_DEPTH, LEAST_DEPTH, depths.at);
    return depths.copy();
  });
  releaseBuffers(palest);
  return out;
}

/** The pixels that are ink or a rule, marked on the page and as indices into it; a pixel alone is grain. */
function inkAbove(
  depth: Uint8ClampedArray,
  full: Uint8ClampedArray,
  rules: Uint8Array,
  width: number,
  height: number,
): { readonly is: Uint8ClampedArray; readonly pixels: Uint32Array } {
  const { is: marked, count: inked } = inkWhere(depth, full, LEAST_DEPTH, RIM_SHARE);
  let most = inked;
  for (let i = rules.indexOf(1); i !== -1; i = rules.indexOf(1, i + 1)) {
    most += 1 - marked[i]!;
    marked[i] = 1;
  }
  const is = new Uint8ClampedArray(marked.length);
  const found = new Uint32Array(most);
  let count = 0;
  for (let i = marked.indexOf(1), y = 0; i !== -1; i = marked.indexOf(1, i)) {
    while (i >= (y + 1) * width) y++;
    const end = (y + 1) * width;
    for (; i < end && marked[i] === 1; i++) {
      // what lies on the border is not asked for its neighbours
      if (y > 0 && y < height - 1 && i > y * width && i < end - 1 && neighbours(marked, i, width) < 2) continue;
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

/** How many of the eight pixels about one are marked. */
const neighbours = (is: Uint8Array, i: number, width: number): number =>
  is[i - 1]! +
  is[i + 1]! +
  is[i - width]! +
  is[i + width]! +
  is[i - width - 1]! +
  is[i - width + 1]! +
  is[i + width - 1]! +
  is[i + width + 1]!;

function cutOut({ width, channels, data }: PixelImage, box: PixelBox): PixelImage {
  const out = createPixelImage(box.width, box.height, channels);
  let to = 0;
  forEachRow(box, width, (from, end) => {
    out.data.set(data.subarray(from * channels, end * channels), to);
    to += box.width * channels;
  });
  return out;
}
