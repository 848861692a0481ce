import { withWorkspace } from '../kernels/workspace';
import { largestByteAround } from '../raster/morphology';
import { createPixelImage, type PixelImage } from '../raster/pixelImage';
import { lumaOf } from '../raster/lightness';
import { releaseBuffers } from '../raster/releaseBuffers';
import { findInks, nearestInk, strokeColours, type Rgb } from './inkColours';
import { inkDepthOf, inkWhere, strokeDepth } from './inkDepth';
import { pageBackground } from './pageBackground';
import type { PageLayers } from './pageLayers';
import { paleRules, STROKE_DEPTH, type PaleRules } from './paleRules';
import { filledBoxes, pictureRegions, type FilledBox } from './pictureRegions';
import { forEachRow, type PixelBox } from './pixelBox';

/** What is paler than this stays with the background: paper grain and the faintest tint. */
const LEAST_DEPTH = 14;
/** Up to this deep it must stand out from what is around by as much as that: rules of squared paper do, a tint and a stain do not. */
const SURE_DEPTH = 30;
/** So far around, px: further than a rule is wide. */
const AROUND_PX = 5;
/** The share of a stroke's full depth from which on it is ink, where that is to have soft edges; and where they are to be hard. */
export const RIM_SHARE = 0.22;
export const HARD_SHARE = 0.5;
/** How many tones a stroke is painted in. */
export type Tones = 1 | 2 | 3;
/** Inks no deeper than this, such as printed rules, look the same in one tone. */
export const PALE_DEPTH = 100;

/** What is written on a page, before it is said in how many tones it is painted. */
export interface PageStrokes {
  /** Of every pixel of the page, row by row, 0 (white) to 255: how deep its ink is, and how deep the stroke is that it belongs to. */
  readonly depth: Uint8ClampedArray;
  readonly full: Uint8ClampedArray;
  readonly rules: PaleRules;
  readonly inks: readonly Rgb[];
  /** Whether each ink is so pale that one tone does for it. */
  readonly pale: readonly boolean[];
  /** How many of them, the last ones, are of filled boxes. */
  readonly boxInks: number;
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
  const { inks, pale, boxInks, own, colours } = inksOf(page, depth, pixels, rules.is, inFilled);
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

/** A box's ink is as deep as the box is on the mean, and this much less at most. */
const FILLED_SPREAD = 25;
/** For each pixel of ink, 1 + the filled box it is ink of; 0 where it is a stroke. */
function whichFilled(
  pixels: Uint32Array,
  full: Uint8ClampedArray,
  width: number,
  filled: readonly FilledBox[],
): Uint8Array {
  const which = new Uint8Array(pixels.length);
  if (filled.length === 0) return which;
  for (let k = 0; k < which.length; k++) {
    const i = pixels[k]!;
    const [x, y] = [i % width, Math.floor(i / width)];
    const at = filled.findIndex(
      ({ box, depth }) =>
        full[i]! >= depth - FILLED_SPREAD &&
        x >= box.x &&
        x < box.x + box.width &&
        y >= box.y &&
        y < box.y + box.height,
    );
    which[k] = at + 1;
  }
  return which;
}

/**
 * A page's inks, and which of them each pixel is: those of strokes, then one for each filled box, that the colour of the one is not
 * mixed into the other. A rule is in one of the pale inks, whatever grain makes of it.
 */
function inksOf(
  page: PixelImage,
  depth: Uint8ClampedArray,
  pixels: Uint32Array,
  rules: Uint8Array,
  inFilled: Uint8Array,
): Pick<PageStrokes, 'inks' | 'pale' | 'boxInks' | 'own'> & { readonly colours: Uint8Array } {
  const colours = strokeColours(page, depth, pixels);
  const isFaint = (k: number): boolean => rules[pixels[k]!] === 1 && depth[pixels[k]!]! < LEAST_DEPTH;
  const strokes = [...findInks(coloursOf(colours, (k) => inFilled[k] === 0 && !isFaint(k)))];
  const isPale = ([r, g, b]: Rgb): boolean => 255 - lumaOf(r, g, b) < PALE_DEPTH;
  // rules that are fainter than any ink, and all there is on a blank sheet
  const ruled = strokes.some(isPale) ? new Uint8Array() : coloursOf(colours, isFaint);
  if (ruled.length > 0) strokes.push(meanColour(ruled));
  const boxes = Math.max(0, ...new Set(inFilled));
  const inks = [...strokes];
  for (let box = 1; box <= boxes; box++) inks.push(meanColour(coloursOf(colours, (k) => inFilled[k] === box)));
  const paleInks = strokes.filter(isPale);
  const placeOf = paleInks.map((ink) => strokes.indexOf(ink));
  const own = new Uint8Array(pixels.length);
  for (let k = 0; k < own.length; k++) {
    const [r, g, b] = [colours[3 * k]!, colours[3 * k + 1]!, colours[3 * k + 2]!];
    if (inFilled[k] !== 0 || strokes.length === 0) own[k] = strokes.length + Math.max(0, inFilled[k]! - 1);
    else if (rules[pixels[k]!] === 1 && paleInks.length > 0) own[k] = placeOf[nearestInk(r, g, b, paleInks)]!;
    else own[k] = nearestInk(r, g, b, strokes);
  }
  return { inks, pale: inks.map(isPale), boxInks: boxes, own, colours };
}

/** Those of the pixels that are wanted, three bytes each. */
function coloursOf(colours: Uint8Array, isWanted: (k: number) => boolean): Uint8Array {
  const kept = new Uint8Array(colours.length);
  let count = 0;
  for (let k = 0; 3 * k < colours.length; k++) {
    if (!isWanted(k)) continue;
    for (let c = 0; c < 3; c++) kept[count++] = colours[3 * k + c]!;
  }
  return kept.subarray(0, count);
}

function meanColour(colours: Uint8Array): Rgb {
  const sums = [0, 0, 0];
  for (let at = 0; at < colours.length; at++) sums[at % 3]! += colours[at]!;
  const count = Math.max(1, colours.length / 3);
  return [sums[0]! / count, sums[1]! / count, sums[2]! / count];
}

/** The depth of what is deep, or deeper than what is around it; 0 for the rest. */
function standingOut(
  depth: Uint8ClampedArray<ArrayBuffer>,
  width: number,
  height: number,
): Uint8ClampedArray<ArrayBuffer> {
  const white = new Uint8ClampedArray(depth.length);
  for (let i = 0; i < white.length; i++) white[i] = 255 - depth[i]!;
  const whitest = largestByteAround(white, width, height, AROUND_PX);
  const out = withWorkspace((ws) => {
    const depths = ws.of(depth);
    ws.kernels.standOut(depths.at, ws.of(whitest).at, depth.length, SURE_DEPTH, LEAST_DEPTH, depths.at);
    return depths.copy();
  });
  releaseBuffers(white, whitest);
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
    if (full[i]! >= STROKE_DEPTH) rules[i] = 0;
    else if (marked[i] === 0) {
      marked[i] = 1;
      most++;
    }
  }
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
