import { bendAt, mostBent, type Bend, type Bends } from '../geometry/bentOutline';
import { applyHomography, homographyBetween } from '../geometry/homography';
import { distance } from '../geometry/point';
import { isWholePicture, wholePicture, type Quad } from '../geometry/quad';
import type { PixelImage } from '../raster/pixelImage';
import { lightnessPlane, transposePlane, type Plane } from '../raster/plane';
import { quantile } from '../raster/quantile';
import { flattenPage } from './flattenPage';
import { interpolateSides } from './interpolateSides';

/*
 * Where an open book or notebook folds: a straight line from one side of the spread to the one opposite, near its middle. The
 * spread is laid flat between its sides, small; along the fold either page turns away from the light (it is darker than what is
 * around it), one page is lit otherwise than the other (a step), and the sides that it meets have a kink there. Tables and
 * writing have dark lines, too, but none of them from side to side.
 * Assumes the fold stands upright as the spread is read, or lies across when the spread is taller than wide.
 */

/** Long side of the flat spread that the fold is looked for on: 0.5 mm of a pixel where two A4 pages lie side by side. */
const FLAT_LONG_SIDE_PX = 800;
/** Short side of it at least, so that each band has rows. */
const LEAST_FLAT_PX = 160;
/** How far from where it would be expected a fold is looked for, as shares of the spread's length. */
interface Reach {
  /** On either side of the middle. */
  readonly aside: number;
  /** How much further along one end of it may lie than the other. */
  readonly tilt: number;
}
const WITHIN_SIDES: Reach = { aside: 0.12, tilt: 0.03 };
/** Where the spread fills the photo, so that no side of it says how it is turned: 10 degrees. */
const FILLING: Reach = { aside: 0.2, tilt: 0.13 };
/** Parts of its length that are looked at each for itself. */
const BANDS = 24;
/** Share of them that may lack it: a thumb, a pen, a line of writing across it. From a quarter on the rules of tables are taken for it. */
const MAY_LACK = 1 / 6;

/** Breadth of what is compared on either side of a step, px of the flat spread. */
const STEP_PX = 8;
/** Half the breadth of the fold's shadow, px: rules are a third of it. */
const SHADOW_PX = 4;
/** What lies around it is looked at from so far on, px. */
const AROUND_PX = 12;
/** And as far as this. */
const AROUND_END_PX = 22;
/** The slopes of a fold's shadow are not further from where it is found than this, px. */
const SLOPE_PX = 16;
/** From this share on of the steeper slope the other one is as steep. */
const ALIKE = 0.8;
/** Half as broad as what may be a rule of a table or of squared paper, px. */
const RULE_PX = 1;
/** A kink by so many levels counts as much as one by the whole length of a side: one by 1 % for 8. Of 250, 800 and 1500 the second misses fewest folds. */
const LEVELS_OF_KINK = 800;
/** How far from the fold its kink is measured, as a share of a side: two places of one that was traced. */
const KINK_SHARE = 0.08;
/** What a fold at the end of the reach loses: books mostly fold in their middle. */
const OFF_MIDDLE = 0.4;
/** Fewer levels are noise: the middle is taken. */
const NO_FOLD = 2;
/** So many are surely the fold. */
const SURE_FOLD = 12;

/** Where a spread folds. */
export interface Fold {
  /** Whether it runs from the top to the bottom; else from the left to the right. */
  readonly upright: boolean;
  /** Where it meets these two sides, as shares of that side's length clockwise. */
  readonly at: readonly [number, number];
  /** 0.6 where the middle was taken for want of a fold, up to 1. */
  readonly confidence: number;
}

/**
 * Finds the fold of an open book.
 * @param photo - RGB, RGBA or grey; any size
 * @param spread - outline of both pages together, photo pixels, and how its sides leave their chords
 * @throws FotoplanError OUTLINE_DEGENERATE when three corners lie on one line
 */
export function findFold(photo: PixelImage, { quad, bends }: { readonly quad: Quad; readonly bends: Bends }): Fold {
  const [tl, tr, br, bl] = quad;
  const across = distance(tl, tr) + distance(bl, br);
  const down = distance(tl, bl) + distance(tr, br);
  const upright = across >= down;
  const scale = FLAT_LONG_SIDE_PX / Math.max(across, down);
  const size = {
    width: Math.max(LEAST_FLAT_PX, Math.round(across * scale)),
    height: Math.max(LEAST_FLAT_PX, Math.round(down * scale)),
  };
  const { width: photoWidth, height: photoHeight } = photo;
  const sheet = mostBent(bends) === 0 ? null : interpolateSides({ corners: quad, bends, photoWidth, photoHeight });
  const plane = lightnessPlane(flattenPage(photo, { corners: quad, sheet }, size));
  const looked = upright ? plane : transposePlane(plane);
  // where each place of the flat spread's length lies on either side, as shares of that side clockwise
  const forth = homographyBetween(wholePicture(1, 1), quad);
  const [first, second] = upright ? [0, 2] : [3, 1];
  const shareOf = (side: number, at: number): number => {
    const [u, v] = upright ? [at, side / 2] : [side === 1 ? 1 : 0, at];
    const on = applyHomography(forth, { x: u, y: v });
    return distance(quad[side]!, on) / distance(quad[side]!, quad[(side + 1) % 4]!);
  };
  const kink = (side: number, at: number): number => kinkAt(bends[side]!, shareOf(side, at));
  const reach = isWholePicture(quad, photoWidth, photoHeight) ? FILLING : WITHIN_SIDES;
  const found = strongestFold(looked, reach, (from, to) => kink(first, from) + kink(second, to));
  return {
    upright,
    at: [shareOf(first, found.at[0]), shareOf(second, found.at[1])],
    confidence: 0.6 + 0.4 * Math.min(1, Math.max(0, found.levels - NO_FOLD) / (SURE_FOLD - NO_FOLD)),
  };
}

/** How sharply a side turns at a place, as a share of its length. */
const kinkAt = (bend: Bend, t: number): number =>
  Math.abs(bendAt(bend, t - KINK_SHARE) + bendAt(bend, t + KINK_SHARE) - 2 * bendAt(bend, t));

interface FoundFold {
  /** Its ends, as shares of the spread's length. */
  readonly at: readonly [number, number];
  readonly levels: number;
}

/**
 * The line from top to bottom that is most like a fold, or the middle.
 * @param kinks - of the sides at either end of a line, as shares of their lengths
 */
function strongestFold(plane: Plane, { aside, tilt }: Reach, kinks: (from: number, to: number) => number): FoundFold {
  const { width } = plane;
  const mostAside = Math.round(aside * width);
  const mostLean = Math.round(tilt * width);
  // a px is 0.5 mm: of a wide search every second line is enough
  const stride = mostLean > 50 ? 2 : 1;
  const bands = Array.from({ length: BANDS }, (_, b) => bandOf(plane, b));
  const ends = (column: number, lean: number): readonly [number, number] => [
    (column + 0.5 - lean / 2) / width,
    (column + 0.5 + lean / 2) / width,
  ];
  let best: { readonly column: number; readonly lean: number; readonly levels: number } | null = null;
  let most = NO_FOLD;
  for (let column = Math.round(width / 2) - mostAside; column < width / 2 + mostAside; column += stride)
    for (let lean = -mostLean; lean <= mostLean; lean += stride) {
      const { paler, darker, dip } = lookAlong(bands, column, lean);
      const levels = Math.max(paler, darker) + dip + LEVELS_OF_KINK * kinks(...ends(column, lean));
      const rated = levels * (1 - (OFF_MIDDLE * Math.abs(column + 0.5 - width / 2)) / mostAside);
      if (rated <= most) continue;
      most = rated;
      best = { column, lean, levels };
    }
  if (best === null) return { at: [0.5, 0.5], levels: 0 };
  const { column, lean, levels } = best;
  return { at: ends(middleOfFold(bands, column, lean), lean), levels };
}

/**
 * The column of a fold whose step and shadow are strongest in a column nearby. Where one page is lit otherwise than the other it is
 * that one; where both darken towards the fold alike that one is on its slope, and the fold is half way between the slopes.
 */
function middleOfFold(bands: readonly Band[], found: number, lean: number): number {
  let [fall, rise] = [found, found];
  let [falls, rises] = [0, 0];
  for (let column = found - SLOPE_PX; column <= found + SLOPE_PX; column++) {
    const { paler, darker } = lookAlong(bands, column, lean);
    if (darker > falls) [falls, fall] = [darker, column];
    if (paler > rises) [rises, rise] = [paler, column];
  }
  const alike = Math.min(falls, rises) > ALIKE * Math.max(falls, rises) && fall < rise;
  return alike ? (fall + rise) / 2 : found;
}

/** What is seen along a line that crosses the middle row in a column and ends `lean` px further right than it begins, in levels, 0 and more. */
interface Seen {
  /** How much paler it is right of the line than left of it. */
  readonly paler: number;
  readonly darker: number;
  /** How much darker it is along the line than around it. */
  readonly dip: number;
}

function lookAlong(bands: readonly Band[], column: number, lean: number): Seen {
  const steps = new Float64Array(BANDS);
  const dips = new Float64Array(BANDS);
  bands.forEach((band, b) => {
    const at = Math.round(column + lean * ((b + 0.5) / BANDS - 0.5));
    steps[b] = band.steps[at]!;
    dips[b] = band.dips[at]!;
  });
  return {
    paler: Math.max(0, quantile(steps, MAY_LACK)),
    darker: Math.max(0, -quantile(steps, 1 - MAY_LACK)),
    dip: Math.max(0, quantile(dips, MAY_LACK)),
  };
}

/** A part of the spread's height: how much paler it is right of each column than left of it, and how much darker at it than around it, in levels. */
interface Band {
  readonly steps: Float32Array;
  readonly dips: Float32Array;
}

function bandOf({ width, height, data }: Plane, b: number): Band {
  const [from, to] = [Math.floor((b * height) / BANDS), Math.floor(((b + 1) * height) / BANDS)];
  const columns = new Float32Array(width);
  for (let y = from; y < to; y++) for (let x = 0; x < width; x++) columns[x]! += data[y * width + x]! / (to - from);
  const sums = new Float64Array(width + 1);
  withoutRules(columns).forEach((value, x) => (sums[x + 1] = sums[x]! + value));
  const mean = (low: number, high: number): number => (sums[high]! - sums[low]!) / (high - low);
  const steps = new Float32Array(width);
  const dips = new Float32Array(width);
  for (let x = AROUND_END_PX; x + AROUND_END_PX < width; x++) {
    steps[x] = mean(x + 1, x + 1 + STEP_PX) - mean(x - STEP_PX, x);
    const around = (mean(x - AROUND_END_PX, x - AROUND_PX) + mean(x + 1 + AROUND_PX, x + 1 + AROUND_END_PX)) / 2;
    dips[x] = around - mean(x - SHADOW_PX, x + 1 + SHADOW_PX);
  }
  return { steps, dips };
}

/** A profile without what is dark over 2 * RULE_PX px at most: a closing. */
function withoutRules(profile: Float32Array): Float32Array {
  const most = (values: Float32Array, of: (...values: number[]) => number): Float32Array =>
    values.map((_, x) => of(...values.subarray(Math.max(0, x - RULE_PX), x + RULE_PX + 1)));
  return most(most(profile, Math.max), Math.min);
}
