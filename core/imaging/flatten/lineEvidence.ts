import { applyHomography, homographyBetween } from '../geometry/homography';
import { distance, type Point } from '../geometry/point';
import { wholePicture } from '../geometry/quad';
import type { SheetEvidence } from './fittedSheet';
import { offPitch, rankLines, type Rank } from './lineSpacing';
import { seenOnSheet, type Sheet } from './sheetModel';

/*
 * What lines that stand on a page say of a sheet: laid flat by it they are straight, those that run one way are parallel, and
 * they run along the page's sides. Where each place of a line lies on the page is looked up for one sheet (locateLines), and
 * for sheets near that one by the change of what is seen there, which is much quicker than looking it up again.
 */

/** Noise of a line's course beside that of its places, in page heights: 0.1 mm of A4. Lower trusts lines that were drawn by hand. */
const COURSE_NOISE = 0.0004;
/** How far lines that run one way are from parallel (standard deviation), in rad: print and rulings are nearer, writing is not. */
const PARALLEL_NOISE = 0.003;
/** How far they all are from the page's sides, in rad: pages are cut and copied askew. */
const LEVEL_NOISE = 0.01;
/** How far lines that stand evenly are from an even distance (standard deviation), in page heights: 0.2 mm of A4. Lower trusts print that was spaced by eye. */
const SPACING_NOISE = 0.0007;
/** What counts of a residual: the places of a line are not independent of each other. */
const WEIGHT = 0.6;
/** No residual counts for more than so many times its noise: what is no line of the page falls out. */
const MOST_NOISES = 3;
/** Steps for the derivatives of what is seen, in shares of the page. */
const DERIVATIVE_STEP = 1e-4;

/** A line, and where its places lie on the page. */
export interface LocatedLine {
  readonly across: boolean;
  /** Its places in the photo, from its middle, in shares of its long side. */
  readonly seen: readonly Point[];
  /** Of its places, in page heights. */
  readonly noise: number;
  /** Where they lie, in shares of the page, [place, u / v]. */
  readonly at: Float64Array;
  /** Where it stands among evenly spaced lines that run the same way; null where they are not evenly spaced. */
  rank: Rank | null;
  /** How far a place moves across the line, in shares of the page, for a move in the photo to the right and down, [place, 2]. */
  readonly step: Float64Array;
}

/** The lines of the evidence, at first where the homography of its corners puts them. */
export function linesToLocate({ corners, lines = [], photoWidth, photoHeight }: SheetEvidence): LocatedLine[] {
  const longSide = Math.max(photoWidth, photoHeight);
  const toPage = homographyBetween(corners, wholePicture(1, 1));
  const height = (distance(corners[0], corners[3]) + distance(corners[1], corners[2])) / 2;
  return lines.map(({ along, strayPx, points }) => ({
    across: along === 'across',
    seen: points.map((p) => ({ x: (p.x - photoWidth / 2) / longSide, y: (p.y - photoHeight / 2) / longSide })),
    noise: Math.hypot(COURSE_NOISE, strayPx / height),
    at: Float64Array.from(points.map((p) => applyHomography(toPage, p)).flatMap(({ x, y }) => [x, y])),
    rank: null,
    step: new Float64Array(2 * points.length),
  }));
}

/** Looks up where the lines' places lie on a sheet: a step of Newton's method, from where they lay on the last. */
export function locateLines(lines: readonly LocatedLine[], sheet: Sheet): void {
  for (const line of lines) for (let i = 0; i < line.seen.length; i++) locatePlace(line, i, sheet);
  for (const way of [true, false]) {
    const ways = lines.filter(({ across }) => across === way);
    const ranks = rankLines(ways.map(({ at }) => meanOf(at, way ? 1 : 0)));
    ways.forEach((line, k) => (line.rank = ranks?.[k] ?? null));
  }
}

/** The mean of every second value, from one on. */
function meanOf(pairs: Float64Array, first: 0 | 1): number {
  let sum = 0;
  for (let i = first; i < pairs.length; i += 2) sum += pairs[i]!;
  return (2 * sum) / pairs.length;
}

function locatePlace({ across, seen, at, step }: LocatedLine, i: number, sheet: Sheet): void {
  const goal = seen[i]!;
  // three steps come to within a hundredth of a mm
  for (let k = 0; k < 3; k++) {
    const u = at[2 * i]!;
    const v = at[2 * i + 1]!;
    const p = seenOnSheet(sheet, u, v);
    const pu = seenOnSheet(sheet, u + DERIVATIVE_STEP, v);
    const pv = seenOnSheet(sheet, u, v + DERIVATIVE_STEP);
    const [a, b, c, d] = [pu.x - p.x, pv.x - p.x, pu.y - p.y, pv.y - p.y];
    const per = DERIVATIVE_STEP / (a * d - b * c);
    at[2 * i] = u + (d * (goal.x - p.x) - b * (goal.y - p.y)) * per;
    at[2 * i + 1] = v + (a * (goal.y - p.y) - c * (goal.x - p.x)) * per;
    step[2 * i] = (across ? -c : d) * per;
    step[2 * i + 1] = (across ? a : -b) * per;
  }
}

/** How many residuals lines have: one for each place, for the direction and the distance of each, and for the direction of all that run one way. */
export const countLineResiduals = (lines: readonly LocatedLine[]): number =>
  lines.length === 0 ? 0 : lines.reduce((sum, { seen }) => sum + seen.length + 2, 2);

const limited = (residual: number): number => (WEIGHT * residual) / Math.sqrt(1 + (residual / MOST_NOISES) ** 2);

/**
 * Writes how far lines are from straight, parallel and level on a sheet near the one they were located on.
 * @param out - the residuals are written from `first` on
 * @param alone - whether no side of the page is seen
 * @param slack - how many times larger the noise is: more than 1 while the sheet is still far from right
 * @returns the index behind the last
 */
export function writeLineResiduals(
  lines: readonly LocatedLine[],
  sheet: Sheet,
  out: Float64Array,
  { first, alone, slack }: { readonly first: number; readonly alone: boolean; readonly slack: number },
): number {
  if (lines.length === 0) return first;
  let to = first;
  for (const across of [true, false]) {
    const ways = lines.filter((line) => line.across === across);
    const begin = to;
    let sum = 0;
    const middles: number[] = [];
    for (const line of ways) {
      const { slope, middle } = writeCourse(line, sheet, slack, out.subarray(to));
      to += line.seen.length;
      out[to++] = slope;
      sum += slope;
      middles.push(middle);
    }
    // where nothing else says how the page is turned, each line is level for itself: one that is not does not turn the others
    const mean = ways.length === 0 || alone ? 0 : sum / ways.length;
    let at = begin;
    for (const { seen } of ways) {
      at += seen.length;
      out[at] = limited((out[at]! - mean) / (slack * PARALLEL_NOISE));
      at++;
    }
    out[to++] = mean / (slack * LEVEL_NOISE);
    const ranks = ways.flatMap(({ rank }) => rank ?? []);
    const off = ranks.length === ways.length ? offPitch(middles, ranks) : null;
    for (let k = 0; k < ways.length; k++) out[to++] = off === null ? 0 : limited(off[k]! / (slack * SPACING_NOISE));
  }
  return to;
}

/**
 * Writes how far the places of a line are from the straight line through them, in noises.
 * @returns its slope on the page, in rad, and where its middle is across it, in page heights
 */
function writeCourse(
  { across, seen, at, step, noise }: LocatedLine,
  sheet: Sheet,
  slack: number,
  out: Float64Array,
): { readonly slope: number; readonly middle: number } {
  const count = seen.length;
  // along the line and across it, in page heights
  const [alongSize, acrossSize] = across ? [sheet.aspect, 1] : [1, sheet.aspect];
  const along = (i: number): number => at[2 * i + (across ? 0 : 1)]! * alongSize;
  let [sx, sy, sxx, sxy] = [0, 0, 0, 0];
  for (let i = 0; i < count; i++) {
    const p = seenOnSheet(sheet, at[2 * i]!, at[2 * i + 1]!);
    const moved = step[2 * i]! * (seen[i]!.x - p.x) + step[2 * i + 1]! * (seen[i]!.y - p.y);
    const y = (at[2 * i + (across ? 1 : 0)]! + moved) * acrossSize;
    const x = along(i);
    out[i] = y;
    sx += x;
    sy += y;
    sxx += x * x;
    sxy += x * y;
  }
  const slope = (count * sxy - sx * sy) / (count * sxx - sx * sx);
  const base = (sy - slope * sx) / count;
  for (let i = 0; i < count; i++) out[i] = limited((out[i]! - base - slope * along(i)) / (slack * noise));
  return { slope, middle: sy / count };
}
