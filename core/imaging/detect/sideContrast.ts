import type { Point } from '../geometry/point';
import { meanOver, type LineProfile } from './lineProfile';
import { positionOn } from './quadCandidates';

/** Lightness and two opponent colours, in levels. */
export interface StripColour {
  readonly l: number;
  readonly a: number;
  readonly b: number;
}

/** What is seen along one side of a candidate, and in the strips to either side of it. */
export interface SideContrast {
  /** How well a step edge is seen, 0 to 1, and the same piece by piece. */
  readonly step: number;
  readonly segments: readonly number[];
  /** How much paler it is inside, -1 to 1, and how different, 0 to 1. */
  readonly brighter: number;
  readonly contrast: number;
  readonly inside: StripColour;
  /** How much of the edge is still seen beyond both corners, 0 to 1 each; only where that is in the picture. */
  readonly overruns: readonly number[];
}

/** Each side is also judged piece by piece: a true edge may miss a piece under a thumb, a chance line misses several. */
const SEGMENTS = 5;
/** A difference between the strips, in levels, that counts half. */
const HALF_CONTRAST = 15;
/** Beyond a corner an edge is looked for from here, px: nearer, the other side's edge is seen. */
const OVERRUN_FROM_PX = 5;
/** Over at least so many px. */
const MIN_OVERRUN_PX = 14;
/** Or over this share of the side, where that is more. */
const OVERRUN_SHARE = 0.12;

/**
 * Measures one side of a candidate.
 * @param side - not a border of the picture
 * @param a - the corners it runs between
 * @param inner - a point within the candidate: its side of the line is inside
 */
export function measureSide(side: LineProfile, a: Point, b: Point, inner: Point): SideContrast {
  const from = positionOn(side, a);
  const to = positionOn(side, b);
  const mean = (sums: Float32Array): number => meanOver(side, sums, from, to) ?? 0;
  const plus: StripColour = { l: mean(side.plusL), a: mean(side.plusA), b: mean(side.plusB) };
  const minus: StripColour = { l: mean(side.minusL), a: mean(side.minusA), b: mean(side.minusB) };
  const plusInside = inner.x * side.line.nx + inner.y * side.line.ny > side.line.rho;
  const [inside, outside] = plusInside ? [plus, minus] : [minus, plus];
  const difference = inside.l - outside.l;
  const contrast = Math.hypot(difference, inside.a - outside.a, inside.b - outside.b);
  const positionAt = (k: number): number => from + ((to - from) * k) / SEGMENTS;
  return {
    step: mean(side.step),
    segments: Array.from({ length: SEGMENTS }, (_, k) =>
      meanOver(side, side.step, positionAt(k), positionAt(k + 1)),
    ).filter((seen) => seen !== null),
    brighter: difference / (Math.abs(difference) + HALF_CONTRAST),
    contrast: contrast / (contrast + HALF_CONTRAST),
    inside,
    overruns: overrunsOf(side, Math.min(from, to), Math.max(from, to)),
  };
}

function overrunsOf(side: LineProfile, low: number, high: number): number[] {
  const reach = Math.max(MIN_OVERRUN_PX, OVERRUN_SHARE * (high - low));
  return [
    meanOver(side, side.step, low - OVERRUN_FROM_PX - reach, low - OVERRUN_FROM_PX),
    meanOver(side, side.step, high + OVERRUN_FROM_PX, high + OVERRUN_FROM_PX + reach),
  ].filter((seen) => seen !== null);
}

/** How much of a side between two corners lies out of the picture, px. */
export function unseenOf(side: LineProfile, a: Point, b: Point): number {
  const [from, to] = [positionOn(side, a), positionOn(side, b)];
  const [low, high] = [Math.min(from, to), Math.max(from, to)];
  return high - low - Math.max(0, Math.min(high, side.start + side.length) - Math.max(low, side.start));
}
