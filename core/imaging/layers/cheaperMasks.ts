import type { Address } from '../kernels/kernels';
import { withWorkspace, type Workspace } from '../kernels/workspace';
import type { PixelImage } from '../raster/pixelImage';
import { lumaOf } from '../raster/lightness';
import { releaseBuffers } from '../raster/releaseBuffers';
import { PALE_DEPTH } from './pageInks';
import type { Rgb } from './inkColours';
import { inColours, seenOf, withoutUnseen, type InkMasks, type PaintedPixels } from './inkMasks';
import { DEPTH_PARTS, type PaleRules } from './paleRules';
import { BACKGROUND_STEP } from './pageLayers';

/*
 * Masks that take fewer bytes and look the same. Grain makes an edge jump by a pixel here and there, and breaks a pale rule in
 * two; each of these costs several bits, since the coder expects something else there. A pixel is therefore turned over where that
 * saves more bits than it costs likeness. Where a mask lies under another, all is the same to the eye, and the cheapest is taken.
 * Method: rate–distortion optimisation. Bits are estimated by the coder's own contexts (T.88, generic region, template 0), with
 * the probabilities that they have on this page; likeness is the squared difference to the page's colour.
 */

/**
 * How much squared difference (levels², mean of the channels) a bit is worth. At 100 pages had 15 % more bytes than at 600, and .004
 * more of structural similarity about ink; at 1600 they had 6 % fewer, and .003 less (16 simulated pages, two tones).
 */
const WORTH_OF_A_BIT = 700;
/** All masks are gone through as often; colours follow in between. Once only, and pages have 7 % more bytes. */
const PASSES = 2;
const CONTEXTS = 1 << 16;
/** What each context is taken to have seen of each symbol before the page: it keeps what never came from being impossible. */
const SEEN_BEFORE = 0.4;
/** Further than a context reaches, px: pixels that near to the page's border are left as they are. */
const BORDER_PX = 4;
/** Rows of 0 in front of a mask's samples: contexts reach two rows up. */
const ROWS_BEFORE = 3;
/** And behind them, for what is seen by the last of them; kernels read on in steps of sixteen. */
const ROWS_BEHIND = 3;
/** So much deeper than twice its rule a pixel may be by grain alone, levels. */
const GRAIN = 20;
/** A pixel and its four neighbours: more edges than these an ink pixel has not. */
const MOST_EDGES = 5;

/**
 * Masks like these that take fewer bytes; those that nothing is seen of any more are left out.
 * @param page - RGB, RGBA or grey
 * @param rules - of it; they stay whole
 * @param background - PageLayers.background of it
 */
export function cheaperMasks(
  page: PixelImage,
  rules: PaleRules,
  background: PixelImage | null,
  masks: InkMasks,
): InkMasks {
  const { width, height } = page;
  if (masks.inks.length === 0 || Math.min(width, height) <= 2 * BORDER_PX) return masks;
  const plane = new Uint32Array(width * height);
  masks.inkPixels.forEach((i, k) => (plane[i] = masks.paintedIn[k]!));
  const work: Work = { page, rules, background, plane };
  let made = masks;
  for (let pass = 0; pass < PASSES && made.inkPixels.length > 0; pass++) {
    const added: number[] = [];
    // the last first: what lies under it is free
    for (let mask = masks.inks.length - 1; mask >= 0; mask--) withWorkspace(easeMask, work, made, mask, added);
    made = inColours(page, masks.inks.length, paintedOf(plane, made.inkPixels, added));
  }
  releaseBuffers(plane);
  return withoutUnseen(made);
}

/** What is worked on while masks are made cheaper. */
interface Work {
  readonly page: PixelImage;
  readonly rules: PaleRules;
  readonly background: PixelImage | null;
  /** Which masks each pixel of the page is in. */
  readonly plane: Uint32Array;
}

/**
 * Makes one mask cheaper.
 * @param added - gets the pixels that are in this mask now and were in none
 */
function easeMask(ws: Workspace, work: Work, masks: InkMasks, mask: number, added: number[]): void {
  const { width } = work.page;
  const own = pixelsOf(masks, mask);
  if (own.length === 0) return;
  const top = Math.floor(own[0]! / width) - 1;
  const rows = Math.floor(own.at(-1)! / width) + ROWS_BEHIND + 1 - top;
  const samples = ws.u8((ROWS_BEFORE + rows + ROWS_BEHIND) * width);
  const contexts = ws.i32((rows * width + 1) >> 1);
  const edges = ws.i32(Math.min(MOST_EDGES * own.length, rows * width));
  samples.fill(0);
  samples.view((bytes) => setSamples(bytes, (ROWS_BEFORE - top) * width, own));
  contexts.fill(0);
  const at = samples.addressOf(ROWS_BEFORE * width);
  const costs = costsOf(ws, at, width, rows, contexts.at);
  const count = ws.kernels.findEdges(at, width, rows * width, edges.at);
  const differences = ws.f32(count);
  edges.view((chosen) =>
    differences.view((out) =>
      differencesOfTurning(work, masks.inks, { mask, offset: top * width }, chosen.subarray(0, count), out),
    ),
  );
  ws.kernels.turnSamples(at, width, contexts.at, costs, edges.at, differences.at, count, WORTH_OF_A_BIT);
  edges.view((chosen) =>
    samples.view((bytes) =>
      readSamples(
        bytes.subarray(ROWS_BEFORE * width),
        work.plane,
        { mask, offset: top * width },
        chosen.subarray(0, count),
        added,
      ),
    ),
  );
}

/** A mask's pixels, rising. */
function pixelsOf({ inkPixels, paintedIn }: InkMasks, mask: number): Uint32Array {
  const own = new Uint32Array(inkPixels.length + 1);
  let count = 0;
  // a pixel that is not in the mask is overwritten by the next one; a branch would often be predicted wrongly
  for (let k = 0; k < inkPixels.length; k++) {
    own[count] = inkPixels[k]!;
    count += (paintedIn[k]! >>> mask) & 1;
  }
  return own.subarray(0, count);
}

/** Marks pixels, `offset` further on than they are on the page. */
function setSamples(bytes: Uint8Array, offset: number, pixels: Uint32Array): void {
  for (let k = 0; k < pixels.length; k++) bytes[pixels[k]! + offset] = 1;
}

/** Takes over what was turned of the samples that were looked at. */
function readSamples(
  bytes: Uint8Array,
  plane: Uint32Array,
  { mask, offset }: { readonly mask: number; readonly offset: number },
  chosen: Int32Array,
  added: number[],
): void {
  for (let k = 0; k < chosen.length; k++) {
    const i = chosen[k]! + offset;
    const all = plane[i]!;
    if (((all >>> mask) & 1) === bytes[chosen[k]!]!) continue;
    if (all === 0) added.push(i);
    plane[i] = all ^ (1 << mask);
  }
}

/** The bits that each symbol takes in each context of a mask; sets its contexts. */
function costsOf(ws: Workspace, samples: Address, width: number, rows: number, contexts: Address): Address {
  const counts = ws.i32(2 * CONTEXTS);
  const costs = ws.f32(2 * CONTEXTS);
  counts.fill(0);
  ws.kernels.findContexts(samples, width, rows * width, contexts, counts.at);
  counts.view((seen) => costs.view((out) => setCosts(seen, out)));
  return costs.at;
}

function setCosts(seen: Int32Array, costs: Float32Array): void {
  costs.fill(1);
  for (let at = 0; at < seen.length; at += 2) {
    const [not, is] = [seen[at]!, seen[at + 1]!];
    if ((not | is) === 0) continue;
    const all = Math.log2(not + is + 2 * SEEN_BEFORE);
    costs[at] = all - Math.log2(not + SEEN_BEFORE);
    costs[at + 1] = all - Math.log2(is + SEEN_BEFORE);
  }
}

/**
 * How much further from the page what is seen of pixels is with each of them turned over in a mask: levels², mean of the channels.
 * @param chosen - rising; on the page they are `offset` further on
 * @param out - gets Infinity for pixels at the page's border: they stay as they are
 */
function differencesOfTurning(
  work: Work,
  inks: readonly Rgb[],
  { mask, offset }: { readonly mask: number; readonly offset: number },
  chosen: Int32Array,
  out: Float32Array,
): void {
  const { page, plane } = work;
  const { width, height } = page;
  const colours = Int32Array.from(inks.flat());
  const isRuled = work.rules.depth !== null && 255 - lumaOf(...inks[mask]!) < PALE_DEPTH;
  for (let k = 0, y = Math.floor(offset / width); k < chosen.length; k++) {
    const i = chosen[k]! + offset;
    while (i >= (y + 1) * width) y++;
    const x = i - y * width;
    if (y < BORDER_PX || y >= height - BORDER_PX || x < BORDER_PX || x >= width - BORDER_PX) out[k] = Infinity;
    else {
      const all = plane[i]!;
      const below = all & ((1 << mask) - 1);
      // under another mask nothing is seen of this one
      if (seenOf(all) > mask) out[k] = 0;
      else {
        const more =
          isRuled && isAtRule(work.rules.is, i, width)
            ? ruleDifference(work, inks, i, mask)
            : inkDifference(page, i, colours, mask) -
              (below === 0 ? paperDifference(work, i, x, y) : inkDifference(page, i, colours, seenOf(below)));
        out[k] = ((all >>> mask) & 1) === 0 ? more : -more;
      }
    }
  }
}

/** On a rule or right beside it. */
const isAtRule = (rules: Uint8Array, i: number, width: number): boolean =>
  (rules[i]! | rules[i - 1]! | rules[i + 1]! | rules[i - width]! | rules[i + width]!) === 1;

/** The same for a pixel of a rule, by its depth on the mean of a stretch: by its own, grain would break the rule. */
function ruleDifference({ page, rules, plane }: Work, inks: readonly Rgb[], i: number, mask: number): number {
  const below = plane[i]! & ((1 << mask) - 1);
  const without = below === 0 ? 0 : depthOf(inks[seenOf(below)]!);
  const mean = rules.depth![i]! / DEPTH_PARTS;
  const own = ownDepth(page, i);
  // a pale stroke on a rule is no grain
  const seen = own > 2 * mean + GRAIN ? own : mean;
  return (seen - depthOf(inks[mask]!)) ** 2 - (seen - without) ** 2;
}

/** How far from white a pixel of the page is, by the channel that says most. */
function ownDepth({ channels, data }: PixelImage, i: number): number {
  const at = i * channels;
  return 255 - (channels === 1 ? data[at]! : Math.min(data[at]!, data[at + 1]!, data[at + 2]!));
}
const depthOf = (ink: Rgb): number => 255 - Math.min(...ink);

function inkDifference({ channels, data }: PixelImage, i: number, colours: Int32Array, ink: number): number {
  const at = i * channels;
  const red = data[at]! - colours[3 * ink]!;
  const green = data[channels === 1 ? at : at + 1]! - colours[3 * ink + 1]!;
  const blue = data[channels === 1 ? at : at + 2]! - colours[3 * ink + 2]!;
  return (red * red + green * green + blue * blue) / 3;
}

/** The same for the paper at x, y. */
function paperDifference({ page: { channels, data }, background }: Work, i: number, x: number, y: number): number {
  const at = i * channels;
  const r = data[at]!;
  const g = data[channels === 1 ? at : at + 1]!;
  const b = data[channels === 1 ? at : at + 2]!;
  if (background === null) return ((255 - r) ** 2 + (255 - g) ** 2 + (255 - b) ** 2) / 3;
  const paper = background.data;
  const grey = background.channels === 1;
  const from =
    (Math.floor(y / BACKGROUND_STEP) * background.width + Math.floor(x / BACKGROUND_STEP)) * background.channels;
  const red = paper[from]! - r;
  const green = paper[grey ? from : from + 1]! - g;
  const blue = paper[grey ? from : from + 2]! - b;
  return (red * red + green * green + blue * blue) / 3;
}

/**
 * The pixels that are in any mask.
 * @param before - those that were, rising
 * @param added - those that were not, in any order
 */
function paintedOf(plane: Uint32Array, before: Uint32Array, added: readonly number[]): PaintedPixels {
  const more = Uint32Array.from(added).sort();
  const inkPixels = new Uint32Array(before.length + more.length);
  let count = 0;
  for (let k = 0, m = 0; k < before.length || m < more.length;) {
    const i = m === more.length || before[k]! < more[m]! ? before[k++]! : more[m++]!;
    if (plane[i] !== 0 && (count === 0 || inkPixels[count - 1] !== i)) inkPixels[count++] = i;
  }
  const paintedIn = new Uint32Array(count);
  for (let k = 0; k < count; k++) paintedIn[k] = plane[inkPixels[k]!]!;
  return { inkPixels: inkPixels.subarray(0, count), paintedIn };
}
