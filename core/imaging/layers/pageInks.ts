import { lumaOf } from '../raster/lightness';
import type { PixelImage } from '../raster/pixelImage';
import { findInks, nearestInk, nearestInks, strokeColours, type Rgb } from './inkColours';
import type { PaleRules } from './paleRules';
import type { FilledBox } from './pictureRegions';

/** What is paler than this stays with the background: paper grain and the faintest tint. */
export const LEAST_DEPTH = 14;
/** Inks no deeper than this, such as printed rules, look the same in one tone. */
export const PALE_DEPTH = 100;

/** The inks a page is written in. */
export interface PageInks {
  readonly inks: readonly Rgb[];
  /** Whether each ink is so pale that one tone does for it. */
  readonly pale: readonly boolean[];
  /** How many of them, the last ones, are of filled boxes. */
  readonly boxInks: number;
}

/** A box's ink is as deep as the box is on the mean, and this much less at most. */
const FILLED_SPREAD = 25;
/**
 * For each pixel of ink, 1 + the filled box it is ink of; 0 where it is a stroke.
 * @param pixels - as indices into the page
 * @param full - PageStrokes.full
 */
export function whichFilled(
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
 * @param pixels - of ink, as indices into the page
 * @param rules - what is a stroke's there is taken out
 * @param inFilled - as whichFilled gives it
 * @returns for each pixel which ink it is, and the colour of its stroke, three bytes each
 */
export function inksOf(
  page: PixelImage,
  { depth, full }: { readonly depth: Uint8ClampedArray; readonly full: Uint8ClampedArray },
  pixels: Uint32Array,
  { is: rules, strokeDepth }: PaleRules,
  inFilled: Uint8Array,
): PageInks & { readonly own: Uint8Array; readonly colours: Uint8Array } {
  const colours = strokeColours(page, { depth, full }, pixels);
  const isFaint = (k: number): boolean => rules[pixels[k]!] === 1 && depth[pixels[k]!]! < LEAST_DEPTH;
  const strokes = [...findInks(coloursOf(colours, (k) => inFilled[k] === 0 && !isFaint(k)))];
  const isPale = ([r, g, b]: Rgb): boolean => 255 - lumaOf(r, g, b) < PALE_DEPTH;
  // rules that are fainter than any ink, and all there is on a blank sheet
  const ruled = strokes.some(isPale) ? new Uint8Array() : coloursOf(colours, isFaint);
  if (ruled.length > 0) strokes.push(meanColour(ruled));
  const boxes = Math.max(0, ...new Set(inFilled));
  const inks = [...strokes];
  for (let box = 1; box <= boxes; box++) inks.push(meanColour(coloursOf(colours, (k) => inFilled[k] === box)));
  const paleInks = ruleInks(
    strokes.filter(isPale),
    coloursOf(colours, (k) => rules[pixels[k]!] === 1),
  );
  const placeOf = paleInks.map((ink) => strokes.indexOf(ink));
  const own = nearestInks(colours, strokes);
  const pale = inks.map(isPale);
  for (let k = 0; k < own.length; k++) {
    const i = pixels[k]!;
    if (inFilled[k] !== 0 || strokes.length === 0) own[k] = strokes.length + Math.max(0, inFilled[k]! - 1);
    if (rules[i] === 0) continue;
    // where a rule crosses a stroke it is the stroke that is seen; where it crosses another rule it stays a rule
    if (full[i]! >= strokeDepth && pale[own[k]!] !== true) rules[i] = 0;
    else if (paleInks.length > 0)
      own[k] = placeOf[nearestInk(colours[3 * k]!, colours[3 * k + 1]!, colours[3 * k + 2]!, paleInks)]!;
  }
  return { inks, pale, boxInks: boxes, own, colours };
}

/**
 * Rules of one hue are printed in one ink: of pale inks nearer than this in RGB the commonest on rules does for all of them. At 33 one of
 * two squared pages had its rules in two tones of grain (27 KB for 13); at 60 pale strokes on a blurred page were painted as its rules.
 */
const SAME_RULE = 42;
function ruleInks(pale: readonly Rgb[], colours: Uint8Array): readonly Rgb[] {
  if (pale.length === 0) return pale;
  const counts = pale.map(() => 0);
  for (const ink of nearestInks(colours, pale)) counts[ink]!++;
  const kept: Rgb[] = [];
  for (const ink of pale.map((_, k) => k).sort((a, b) => counts[b]! - counts[a]!)) {
    const [r, g, b] = pale[ink]!;
    if (kept.every((other) => Math.hypot(r - other[0], g - other[1], b - other[2]) >= SAME_RULE)) kept.push(pale[ink]!);
  }
  return kept;
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
