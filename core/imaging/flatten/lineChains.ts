import { peakOffset } from '../geometry/peakOffset';
import type { Point } from '../geometry/point';
import { quantile } from '../raster/quantile';
import { smoothProfile, STRIPS } from './inkProfiles';
import type { LineFlow } from './lineFlow';

/*
 * Single lines across a page: in each strip's profile of ink peaks are looked for, thin ones (rulings) and broad ones (the
 * middle of a line of writing); peaks of neighbouring strips that lie at each other's height are joined to chains, over gaps
 * between words. Long and smooth chains are lines: peaks that lie in a row by chance stray far more.
 */

/** How thin lines and lines of writing show in a strip's profile. */
interface LineKind {
  /** The profile is smoothed over so many px to either side. */
  readonly smoothPx: number;
  /** And what changes slower than over so many is taken away. */
  readonly aroundPx: number;
  /** No other peak within so many px. */
  readonly apartPx: number;
  /** A chain may go on so far from where it was going, px. */
  readonly stepPx: number;
  /** Strips in which it is seen, at least. */
  readonly minSeen: number;
  /** A chain that strays further from a smooth course is no line, px: peaks in a row by chance stray by 0.6 and more, most of them. */
  readonly maxStrayPx: number;
}
/** Rulings, squares and the rules of tables. */
const THIN: LineKind = { smoothPx: 0, aroundPx: 4, apartPx: 4, stepPx: 1.6, minSeen: 12, maxStrayPx: 0.5 };
/** Lines of writing, by the middle of their letters. */
const WRITTEN: LineKind = { smoothPx: 3, aroundPx: 14, apartPx: 7, stepPx: 2.2, minSeen: 12, maxStrayPx: 0.5 };
/** Across the writing letters stand in a row by chance more often than at a margin. */
const doubted = (kind: LineKind): LineKind => ({ ...kind, minSeen: 16, maxStrayPx: 0.3 });

/** A peak stands out by so many times what a profile strays by. */
const PEAK_NOISE = 3;
/** And by this much, in levels. */
const MIN_PEAK = 0.6;
/** A chain may be missing in so many strips in a row: a gap between words. */
const MAX_GAP = 3;

/** A line on the flat page, px of it. */
export interface Chain {
  readonly places: readonly Point[];
  /** How far they stray from a smooth course (standard deviation). */
  readonly stray: number;
}

/**
 * Follows the lines across a page, thin ones and, where there are none of those, written ones.
 * @param profiles - of a page whose long side is about 1,000 px
 * @param width - of the page, px
 * @param flow - the course of its lines as a whole, where that is known
 * @param doubtful - whether writing does not run along these lines
 */
export function chainLines(
  profiles: readonly Float32Array[],
  width: number,
  flow: LineFlow | null,
  doubtful: boolean,
): Chain[] {
  const [thin, written] = [THIN, WRITTEN].map((kind) =>
    chainsOfKind(profiles, width, flow, doubtful ? doubted(kind) : kind),
  ) as [Chain[], Chain[]];
  const beside = (p: Chain, q: Chain): boolean => {
    let near = 0;
    for (const at of p.places)
      if (q.places.some((other) => other.x === at.x && Math.abs(other.y - at.y) < WRITTEN.apartPx)) near++;
    return near > p.places.length / 2;
  };
  return [...thin, ...written.filter((each) => !thin.some((other) => beside(each, other)))];
}

function peaksOf(profile: Float32Array, { smoothPx, aroundPx, apartPx }: LineKind): number[] {
  const fine = smoothProfile(smoothProfile(profile, smoothPx), smoothPx);
  const around = smoothProfile(profile, aroundPx);
  const ink = fine.map((value, y) => value - around[y]!);
  const floor = Math.max(MIN_PEAK, PEAK_NOISE * quantile(ink.map(Math.abs), 0.4));
  const peaks: number[] = [];
  for (let y = aroundPx; y < ink.length - aroundPx; y++) {
    const value = ink[y]!;
    if (value < floor) continue;
    let highest = true;
    for (let o = 1; o <= apartPx && highest; o++) highest = value >= ink[y - o]! && value > ink[y + o]!;
    if (highest) peaks.push(y + peakOffset(ink[y - 1]!, value, ink[y + 1]!) + 0.5);
  }
  return peaks;
}

/** A chain while it grows. */
interface Growing {
  readonly strips: number[];
  readonly ys: number[];
}

function chainsOfKind(
  profiles: readonly Float32Array[],
  width: number,
  flow: LineFlow | null,
  kind: LineKind,
): Chain[] {
  let growing: Growing[] = [];
  const done: Growing[] = [];
  profiles.forEach((profile, k) => {
    const sinkAt = (y: number): number =>
      flow === null ? 0 : (flow.slopeAt(k / STRIPS, y / profile.length) * profile.length) / STRIPS;
    const begun = growOver(growing, peaksOf(profile, kind), k, sinkAt, kind);
    done.push(...growing.filter(({ strips }) => k - strips.at(-1)! > MAX_GAP));
    growing = [...growing.filter(({ strips }) => k - strips.at(-1)! <= MAX_GAP), ...begun];
  });
  return [...done, ...growing].flatMap((chain) => {
    const stray = strayOf(chain);
    if (chain.ys.length < kind.minSeen || stray > kind.maxStrayPx) return [];
    return [{ stray, places: chain.ys.map((y, i) => ({ x: ((chain.strips[i]! + 0.5) * width) / STRIPS, y })) }];
  });
}

/**
 * Lets chains go on at the peaks of the next strip.
 * @param sinkAt - how far lines sink from the strip before to this one at a height of the page, px
 * @returns chains that begin at the peaks that none went on at
 */
function growOver(
  growing: Growing[],
  peaks: readonly number[],
  strip: number,
  sinkAt: (y: number) => number,
  { stepPx }: LineKind,
): Growing[] {
  const taken = new Uint8Array(peaks.length);
  // the longest go first, so that a stray peak cannot lead one off
  growing.sort((p, q) => q.ys.length - p.ys.length);
  for (const chain of growing) {
    const gap = strip - chain.strips.at(-1)!;
    const expected = goesOnAt(chain, strip) ?? chain.ys.at(-1)! + gap * sinkAt(chain.ys.at(-1)!);
    const best = nearestOf(peaks, taken, expected);
    if (best < 0 || Math.abs(peaks[best]! - expected) > stepPx * Math.sqrt(gap)) continue;
    taken[best] = 1;
    chain.strips.push(strip);
    chain.ys.push(peaks[best]!);
  }
  return peaks.flatMap((y, i) => (taken[i] === 0 ? [{ strips: [strip], ys: [y] }] : []));
}

/** Which of the peaks that are not taken is nearest to a place; -1 where all are. */
function nearestOf(peaks: readonly number[], taken: Uint8Array, place: number): number {
  let best = -1;
  let least = Infinity;
  for (let i = 0; i < peaks.length; i++) {
    const away = Math.abs(peaks[i]! - place);
    if (taken[i] === 1 || away >= least) continue;
    least = away;
    best = i;
  }
  return best;
}

/** Strips over which a chain's direction is taken. */
const DIRECTION_STRIPS = 5;

/** Where a chain goes on in a strip by its own direction; null where it is too short to have one. */
function goesOnAt({ strips, ys }: Growing, strip: number): number | null {
  const last = ys.length - 1;
  const first = Math.max(0, last - DIRECTION_STRIPS);
  if (last - first < 3) return null;
  // a line through the last few places
  let [sx, sy, sxx, sxy, n] = [0, 0, 0, 0, 0];
  for (let i = first; i <= last; i++) {
    const x = strips[i]! - strip;
    sx += x;
    sy += ys[i]!;
    sxx += x * x;
    sxy += x * ys[i]!;
    n++;
  }
  const slope = (n * sxy - sx * sy) / (n * sxx - sx * sx);
  return (sy - slope * sx) / n;
}

/** How far a chain's places stray from the lines through their neighbours (median, as a standard deviation), px. */
function strayOf({ strips, ys }: Growing): number {
  const off: number[] = [];
  for (let i = 1; i + 1 < ys.length; i++) {
    const t = (strips[i]! - strips[i - 1]!) / (strips[i + 1]! - strips[i - 1]!);
    off.push(Math.abs(ys[i]! - ys[i - 1]! * (1 - t) - ys[i + 1]! * t));
  }
  // the middle of three strays by sqrt(1.5) times as much as each; 1.4826 makes a median a deviation
  return (quantile(off, 0.5, Infinity) * 1.4826) / Math.sqrt(1.5);
}
