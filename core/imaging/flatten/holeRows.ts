import { createNormalEquations } from '../geometry/normalEquations';
import type { Point } from '../geometry/point';
import { connectedRegions, type Region } from '../raster/connectedRegions';
import type { Plane } from '../raster/plane';
import { quantile } from '../raster/quantile';
import type { Chain } from './lineChains';

/*
 * Holes along a side of a page, punched for a folder or for a spiral: a machine made them on a straight line, evenly spaced and
 * of one size. Seen through them is what lies below, which is darker than paper; on a white desk they are not found.
 */

/** How far from its side a row of holes lies at most, as a share of the page's long side: 18 mm of A4. */
const STRIP = 0.06;
/** Width of a hole, as a share of the long side: 3 to 10 mm of A4. */
const LEAST_WIDTH = 0.01;
const MOST_WIDTH = 0.034;
/** A hole is as wide as it is high, but for this factor. */
const MOST_OBLONG = 1.6;
/** Share of its box that a hole fills: a disc fills 0.79, a letter half. */
const LEAST_FILLED = 0.62;
/** What is seen through a hole sends back less than this share of the paper's light. */
const DARK_SHARE = 0.75;
/** Share of a block's pixels that its paper is brighter than, and its length, as a share of the strip's. */
const PAPER_SHARE = 0.7;
const BLOCKS = 8;
/** Every so manieth pixel either way is looked at for it. */
const PAPER_STEP = 4;
/** Holes of a row differ by no more than this share of their width. */
const SAME_SIZE = 0.3;
/** They lie off their common course by no more than this share of it. */
const OFF_COURSE = 0.15;
/** Their distances are whole numbers of the least, to this share of it. */
const UNEVEN = 0.1;
/** A folder's four holes; two are no row. */
const LEAST_HOLES = 4;
/** Nobody measures a hole's middle better, px of the page as it is read. */
const LEAST_STRAY_PX = 0.5;

/**
 * Finds the rows of holes along the upper and the lower side of a page that was roughly laid flat.
 * @param plane - its lightness; transposed, it tells of its left and right side
 * @returns one row a side at most, its places from left to right
 */
export function findHoleRows(plane: Plane): Chain[] {
  const { width, height, data } = plane;
  const long = Math.max(width, height);
  const rows = Math.min(height, Math.round(STRIP * long));
  return [0, height - rows].flatMap((top) => {
    const strip = { width, height: rows, data: data.subarray(top * width, (top + rows) * width) };
    const row = rowOf(holesIn(strip, long, top === 0 ? 0 : rows - 1));
    return row === null ? [] : [{ ...row, places: row.places.map(({ x, y }) => ({ x, y: y + top })) }];
  });
}

interface Hole {
  readonly at: Point;
  readonly width: number;
}

/** @param outside - the strip's row at the page's side: what reaches it lies beyond the page */
function holesIn({ width, height, data }: Plane, long: number, outside: number): Hole[] {
  const block = Math.ceil(width / BLOCKS);
  const paper = Array.from({ length: BLOCKS }, (_, k) => {
    const levels: number[] = [];
    for (let y = 0; y < height; y += PAPER_STEP)
      for (let x = k * block; x < Math.min(width, (k + 1) * block); x += PAPER_STEP) levels.push(data[y * width + x]!);
    return quantile(levels, PAPER_SHARE, 255);
  });
  const dark = new Uint8Array(width * height);
  for (let k = 0; k < BLOCKS; k++) {
    const least = DARK_SHARE * paper[k]!;
    for (let y = 0; y < height; y++)
      for (let at = y * width + k * block, end = y * width + Math.min(width, (k + 1) * block); at < end; at++)
        if (data[at]! < least) dark[at] = 1;
  }
  return connectedRegions(dark, width, height)
    .filter((region) => isHole(region, long) && region.top !== outside && region.bottom !== outside)
    .map(({ pixels, left, right }) => ({
      at: {
        x: pixels.reduce((sum, at) => sum + (at % width), 0) / pixels.length + 0.5,
        y: pixels.reduce((sum, at) => sum + Math.floor(at / width), 0) / pixels.length + 0.5,
      },
      width: right + 1 - left,
    }));
}

function isHole({ pixels, left, right, top, bottom }: Region, long: number): boolean {
  const [across, down] = [right + 1 - left, bottom + 1 - top];
  return (
    Math.min(across, down) >= LEAST_WIDTH * long &&
    Math.max(across, down) <= MOST_WIDTH * long &&
    Math.max(across, down) <= MOST_OBLONG * Math.min(across, down) &&
    pixels.length >= LEAST_FILLED * across * down
  );
}

/** The holes of one size that lie evenly on a smooth course; null where fewer than LEAST_HOLES do, or not all of them. */
function rowOf(holes: readonly Hole[]): Chain | null {
  const width = quantile(
    holes.map((hole) => hole.width),
    0.5,
  );
  const alike = holes
    .filter((hole) => Math.abs(hole.width - width) <= SAME_SIZE * width)
    .map(({ at }) => at)
    .sort((p, q) => p.x - q.x);
  if (alike.length < LEAST_HOLES) return null;
  const course = courseOf(alike);
  const off = alike.map(({ x, y }) => Math.abs(y - course(x)));
  if (Math.max(...off) > OFF_COURSE * width || !isEven(alike)) return null;
  const stray = Math.sqrt(off.reduce((sum, each) => sum + each * each, 0) / off.length);
  return { stray: Math.max(LEAST_STRAY_PX, stray), places: alike };
}

/** A parabola through places, by least squares: the sheet may be bent. */
function courseOf(places: readonly Point[]): (x: number) => number {
  const span = places.at(-1)!.x - places[0]!.x || 1;
  const terms = (x: number): number[] => {
    const t = (x - places[0]!.x) / span;
    return [1, t, t * t];
  };
  const equations = createNormalEquations(3);
  for (const { x, y } of places) equations.add(terms(x), y, 1);
  const found = equations.solve() ?? new Float64Array(3);
  return (x) => terms(x).reduce((sum, term, k) => sum + term * found[k]!, 0);
}

/** Whether all distances are whole numbers of the least, as where holes of a spiral are torn or hidden. */
function isEven(places: readonly Point[]): boolean {
  const gaps = places.slice(1).map(({ x }, k) => x - places[k]!.x);
  const least = Math.min(...gaps);
  return gaps.every((gap) => Math.abs(gap / least - Math.round(gap / least)) <= UNEVEN * Math.round(gap / least));
}
