import { fillMasked } from '../light/fillMasked';
import { smoothSurface } from '../light/smoothSurface';
import { bilinear } from '../raster/bilinear';
import { boxBlur } from '../raster/boxBlur';
import { connectedRegions } from '../raster/connectedRegions';
import { extremeFilter } from '../raster/morphology';
import type { PixelImage } from '../raster/pixelImage';
import { quantile } from '../raster/quantile';
import { sampleCubic } from './sampleCubic';
import { secondView, type PageInPhoto, type SecondView } from './secondView';

/*
 * What a reflection hides on one photo of a page is seen on another, taken from further to the side.
 * 1. The second is laid over the first (secondView).
 * 2. Cell by cell the paper of both is compared: their ratio is how differently the two are lit. It changes slowly, but for
 *    reflections: the first's make it larger.
 * 3. Under a reflection of the first the ratio is carried over from around it, and the second, brought to the first's light
 *    by it, takes the first's place.
 * A reflection adds light and takes none, so nothing else is touched. Limits: where both are burnt out nothing is known, and
 * the first stays.
 */

export interface FilledPhoto {
  /** The first photo, with what the second knows under its reflections. */
  readonly photo: PixelImage;
  /** Share of the page that was filled. */
  readonly filledShare: number;
  /** Share of the page under a reflection that the second does not show either. */
  readonly leftShare: number;
}

/** Side of a cell, px of the small photos: 3 mm of an A4 page. */
const CELL_PX = 16;
/** Share of a cell's pixels that its paper is brighter than: the others are ink. */
const PAPER_SHARE = 0.7;
/** Places, of 64 that are looked at, that make a cell known. */
const LEAST_SEEN = 12;
/** From here on paper may be burnt out, level. */
const BRIGHT = 222;
/** From here on it surely is, and says nothing. */
const BURNT = 251;
/** A reflection's middle is brighter than the rest of the page would be there by this factor, its rim by that. */
const MIDDLE_FACTOR = 1.1;
const RIM_FACTOR = 1.04;
/** Ink is at most so light, as a share of its paper; on the other photo it may be blurred. */
const INK_SHARE = 0.6;
const PALE_INK_SHARE = 0.8;
const INK_REACH_PX = 2;
/** Fewer pixels of ink say nothing. */
const LEAST_INK_PX = 300;
/** Share of the first's ink that the second must show. */
const LEAST_SHARED_INK = 0.7;

/**
 * Fills reflections on one photo from a second; method and limits above.
 * @param first - RGB, RGBA or grey, and so is the second, of whatever size
 * @returns null where they do not show the same page the same way up
 */
export function fillGlare(first: PageInPhoto, second: PageInPhoto): FilledPhoto | null {
  const view = secondView(first, second);
  if (view === null) return null;
  const cells = compareCells(view);
  if (sharedInk(view, cells) < LEAST_SHARED_INK) return null;
  const toFill = cellsToFill(cells);
  const onPage = Math.max(1, countOnes(cells.known));
  return {
    photo: merge(first.photo, second.photo, { view, cells, toFill }),
    filledShare: countOnes(toFill.fill) / onPage,
    leftShare: countOnes(toFill.left) / onPage,
  };
}

const countOnes = (mask: Uint8Array): number => mask.reduce((sum, one) => sum + one, 0);

/** Paper of both photos, cell by cell. */
interface Cells {
  readonly across: number;
  readonly down: number;
  /** 1 where both show the page. */
  readonly known: Uint8Array;
  /** Levels of green. */
  readonly first: Float32Array;
  readonly second: Float32Array;
  /** First over second, for red, green and blue. */
  readonly ratios: readonly Float32Array[];
}

function compareCells({ first, second, seen }: SecondView): Cells {
  const across = Math.ceil(first.width / CELL_PX);
  const down = Math.ceil(first.height / CELL_PX);
  const known = new Uint8Array(across * down);
  const planes = Array.from({ length: 5 }, () => new Float32Array(across * down));
  for (let k = 0; k < known.length; k++) {
    const levels = paperOf(k, across, { first, second, seen });
    if (levels === null) continue;
    known[k] = 1;
    const [own, other] = levels;
    planes[0]![k] = own[1]!;
    planes[1]![k] = other[1]!;
    for (let c = 0; c < 3; c++) planes[2 + c]![k] = Math.max(1, own[c]!) / Math.max(1, other[c]!);
  }
  return { across, down, known, first: planes[0]!, second: planes[1]!, ratios: planes.slice(2) };
}

/** Red, green and blue of the paper in a cell of the first and of the second, or null where hardly any of it is on the page. */
function paperOf(
  cell: number,
  across: number,
  { first, second, seen }: Pick<SecondView, 'first' | 'second' | 'seen'>,
): readonly [readonly number[], readonly number[]] | null {
  const levels: number[][] = Array.from({ length: 6 }, () => []);
  const left = (cell % across) * CELL_PX;
  const top = Math.floor(cell / across) * CELL_PX;
  for (let y = top; y < Math.min(first.height, top + CELL_PX); y += 2)
    for (let x = left; x < Math.min(first.width, left + CELL_PX); x += 2) {
      const at = y * first.width + x;
      if (seen[at] === 0) continue;
      for (let c = 0; c < 3; c++) {
        levels[c]!.push(first.data[at * first.channels + (first.channels === 1 ? 0 : c)]!);
        levels[3 + c]!.push(second.data[3 * at + c]!);
      }
    }
  if (levels[0]!.length < LEAST_SEEN) return null;
  const paper = levels.map((each) => quantile(each, PAPER_SHARE));
  return [paper.slice(0, 3), paper.slice(3)];
}

/**
 * Share of the first's ink, where it is not bright, that the second shows as well, within two pixels: squared paper alone looks
 * alike on every page.
 * @returns 1 where there is hardly any ink
 */
function sharedInk({ first, second, seen }: SecondView, cells: Cells): number {
  const { width, height, channels } = first;
  const green = channels === 1 ? 0 : 1;
  const darkNear = (x: number, y: number, level: number): boolean => {
    for (let j = y - INK_REACH_PX; j <= y + INK_REACH_PX; j++)
      for (let i = x - INK_REACH_PX; i <= x + INK_REACH_PX; i++) {
        if (second.data[3 * (j * width + i) + 1]! < level && seen[j * width + i] === 1) return true;
      }
    return false;
  };
  let [inked, shared] = [0, 0];
  for (let y = INK_REACH_PX; y < height - INK_REACH_PX; y++)
    for (let x = INK_REACH_PX; x < width - INK_REACH_PX; x++) {
      const at = y * width + x;
      const cell = Math.floor(y / CELL_PX) * cells.across + Math.floor(x / CELL_PX);
      const paper = cells.first[cell]!;
      if (seen[at] === 0 || paper >= BRIGHT || first.data[at * channels + green]! > INK_SHARE * paper) continue;
      inked++;
      if (darkNear(x, y, PALE_INK_SHARE * cells.second[cell]!)) shared++;
    }
  return inked < LEAST_INK_PX ? 1 : shared / inked;
}

/** What is known of the cells; 1 where it is so. */
interface ToFill {
  /** To be taken from the second. */
  readonly fill: Uint8Array;
  /** Under a reflection that the second shows, too. */
  readonly left: Uint8Array;
  /** Under a reflection on either: they do not tell how the photos are lit. */
  readonly glare: Float32Array;
}

function cellsToFill({ across, down, known, first, second, ratios }: Cells): ToFill {
  const light = smoothSurface(ratios[1]!, known, across, down);
  /** Reflections, given how much brighter a photo is than its light explains, and its paper's levels. */
  const glareWhere = (excess: (k: number) => number, paper: Float32Array): Uint8Array => {
    const rim = Uint8Array.from(known, (one, k) => Number(one === 1 && excess(k) > RIM_FACTOR));
    const glare = new Uint8Array(known.length);
    for (const { pixels } of connectedRegions(rim, across, down))
      if (pixels.some((k) => paper[k]! >= BRIGHT && excess(k) > MIDDLE_FACTOR)) for (const k of pixels) glare[k] = 1;
    return glare;
  };
  const onFirst = glareWhere((k) => ratios[1]![k]! / light[k]!, first);
  const onSecond = glareWhere((k) => light[k]! / ratios[1]![k]!, second);
  return {
    fill: onFirst.map((one, k) => Number(one === 1 && second[k]! < BURNT)),
    left: onFirst.map((one, k) => Number(one === 1 && second[k]! >= BURNT)),
    glare: Float32Array.from(onFirst, (one, k) => one | onSecond[k]!),
  };
}

interface Merge {
  readonly view: SecondView;
  readonly cells: Cells;
  readonly toFill: ToFill;
}

/** Lays the second, in the first's light, over what is to be filled, with a soft rim a cell wide. */
function merge(first: PixelImage, second: PixelImage, { view, cells, toFill }: Merge): PixelImage {
  const { across, down } = cells;
  const unlike = Uint8Array.from(widened(toFill.glare, cells), (one, k) => Number(one === 1 || cells.known[k] === 0));
  const gains = cells.ratios.map((ratio) => fillMasked(ratio, unlike, across, down));
  const share = boxBlur(widened(Float32Array.from(toFill.fill), cells), across, down, { radius: 1 });
  const { width, height, channels } = first;
  const data = first.data.slice();
  const perCell = CELL_PX * (width / view.first.width);
  const read = new Float32Array(3);
  const place = { at: 0, fx: 0, fy: 0 };
  for (let y = 0, at = 0; y < height; y++)
    for (let x = 0; x < width; x++, at += channels) {
      findCell((x + 0.5) / perCell - 0.5, (y + 0.5) / perCell - 0.5, cells, place);
      const much = bilinear(share, across, place.at, place.fx, place.fy);
      if (much === 0) continue;
      const there = view.placeInSecond(x + 0.5, y + 0.5);
      if (there === null || !sampleCubic(second, there.x, there.y, read)) continue;
      for (let c = 0; c < Math.min(3, channels); c++) {
        const level = read[c]! * bilinear(gains[c]!, across, place.at, place.fx, place.fy);
        data[at + c] = (1 - much) * data[at + c]! + much * level;
      }
    }
  return { width, height, channels, data };
}

/** Between which four cells a place lies, given in cells; beyond the outermost middles they are carried on. */
function findCell(x: number, y: number, { across, down }: Cells, into: { at: number; fx: number; fy: number }): void {
  const cx = Math.min(across - 1.001, Math.max(0, x));
  const cy = Math.min(down - 1.001, Math.max(0, y));
  into.at = (cy | 0) * across + (cx | 0);
  into.fx = cx - (cx | 0);
  into.fy = cy - (cy | 0);
}

/** A mask with the cells beside it. */
const widened = (mask: Float32Array, { across, down }: Cells): Float32Array =>
  extremeFilter(mask, across, down, { extreme: 'largest', radius: 1 });
