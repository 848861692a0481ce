import type { Bend, Bends } from '../geometry/bentOutline';
import { distance, lerpPoint, normalOf, type Point } from '../geometry/point';
import type { Quad } from '../geometry/quad';
import { withWorkspace } from '../kernels/workspace';
import { edgeProfile } from './edgeProfile';
import { NEAR_PX, SAMPLES_PER_SIDE } from './edgeSupport';
import { edgeStrength, inPicture, type BentQuad, type SideSearch } from './sideSearch';

/** A side as it might run: how far its ends lie from the chord's, px inwards, and its bow between them. */
export interface Course {
  readonly start: number;
  readonly end: number;
  readonly bow: number;
}

/** How far to either side a course may end, as a share of the picture's long side: less misses sides that went astray, more takes its time to the square. */
const CORRIDOR = 0.055;
/** How far a course may bow, as a share of its length: a sheet lifted by a hand bows by up to a tenth. */
const MAX_BOW = 0.11;
/** Step between the ends tried, px: just under what refining still finds its way from. */
const COURSE_STEP_PX = 4;
/** Bows tried to either side, at most. */
const BOW_STEPS = 12;
/** Courses given for a side: the true one is nearly always among the first three. */
const COURSES = 3;
/** By how much they differ at least, px summed over ends and middle: nearer ones are refined to the same. */
const DIFFERS_PX = 24;
/** What an edge counts at NEAR_PX from a course, beside one on it. */
const NEAR_WEIGHT = 0.6;

/** Where along the chord the i-th position is looked at. */
const shareOf = (i: number): number => (i + 0.5) / SAMPLES_PER_SIDE;

/** From -reach to reach in steps of a size. */
const evenly = (reach: number, step: number): number[] =>
  Array.from({ length: Math.floor((2 * reach) / step + 1e-9) + 1 }, (_, k) => k * step - reach);

const difference = (p: Course, q: Course): number =>
  Math.abs(p.start - q.start) +
  Math.abs(p.end - q.end) +
  2 * Math.abs((p.start + p.end - q.start - q.end) / 2 + p.bow - q.bow);

/** For every position along a chord and every px across it, from -span to span, how strong the edge there or nearby is. */
interface EdgeStrip {
  /** [SAMPLES_PER_SIDE, 2 × span + 1], 0 to 1. */
  readonly strengths: Float32Array;
  readonly span: number;
}

function readStrip({ picture, polarity }: SideSearch, a: Point, b: Point, span: number): EdgeStrip {
  const { nx, ny } = normalOf(a, b);
  const breadth = 2 * span + 1;
  const strengths = new Float32Array(SAMPLES_PER_SIDE * breadth);
  for (let i = 0; i < SAMPLES_PER_SIDE; i++) {
    const p = lerpPoint(a, b, shareOf(i));
    const row = strengths.subarray(i * breadth, (i + 1) * breadth);
    const { response, towards } = edgeProfile(picture, p, nx, ny, span);
    for (let k = 1; k < breadth - 1; k++) {
      const m = response[k]!;
      if (m < response[k - 1]! || m <= response[k + 1]!) continue;
      if (!inPicture({ x: p.x + nx * (k - span), y: p.y + ny * (k - span) }, picture)) continue;
      const strength = Math.min(1, edgeStrength(m, towards[k]!, polarity));
      for (let at = Math.max(0, k - NEAR_PX); at <= Math.min(breadth - 1, k + NEAR_PX); at++)
        row[at] = Math.max(row[at]!, strength * (1 - ((1 - NEAR_WEIGHT) * Math.abs(at - k)) / NEAR_PX));
    }
  }
  return { strengths, span };
}

/** All courses tried, and the strength of the edges on each. */
interface ScoredCourses {
  readonly scores: Float32Array;
  readonly courseAt: (k: number) => Course;
}

/** A parabola over a side, 1 in its middle. */
const ARCH = Float32Array.from({ length: SAMPLES_PER_SIDE }, (_, i) => 4 * shareOf(i) * (1 - shareOf(i)));

function scoreCourses({ strengths, span }: EdgeStrip, ends: readonly number[], bows: readonly number[]): ScoredCourses {
  const scores = withWorkspace((ws) => {
    const arch = ws.of(ARCH);
    const strip = ws.of(strengths);
    const chord = ws.f32(SAMPLES_PER_SIDE);
    const tried = ws.of(Float32Array.from(bows));
    const sums = ws.f32(ends.length ** 2 * bows.length);
    const straight = new Float32Array(SAMPLES_PER_SIDE);
    let at = 0;
    for (const start of ends) {
      for (const end of ends) {
        for (let i = 0; i < SAMPLES_PER_SIDE; i++) straight[i] = start + (end - start) * shareOf(i) + span + 0.5;
        chord.set(straight);
        ws.kernels.courseStrengths(
          strip.at,
          2 * span + 1,
          SAMPLES_PER_SIDE,
          chord.at,
          arch.at,
          tried.at,
          bows.length,
          sums.addressOf(at),
        );
        at += bows.length;
      }
    }
    return sums.copy();
  });
  const courseAt = (k: number): Course => {
    const pair = Math.floor(k / bows.length);
    return {
      start: ends[Math.floor(pair / ends.length)]!,
      end: ends[pair % ends.length]!,
      bow: bows[k % bows.length]!,
    };
  };
  return { scores, courseAt };
}

/**
 * The courses about a chord on which most steps are seen, best first: a small exhaustive search over both ends and a parabola's
 * bow, in a corridor of CORRIDOR to either side.
 * @param a - the chord's ends, in pixels of the search's picture
 * @returns at most COURSES, which differ by at least DIFFERS_PX
 */
export function candidateCourses(search: SideSearch, a: Point, b: Point): Course[] {
  const { width, height } = search.picture;
  const reach = Math.round(CORRIDOR * Math.max(width, height));
  const maxBow = MAX_BOW * (distance(a, b) || 1);
  const strip = readStrip(search, a, b, Math.round(reach + maxBow) + 1);
  const bows = evenly(maxBow, Math.max(COURSE_STEP_PX, maxBow / BOW_STEPS));
  // four at a time: the last again and again does no harm
  while (bows.length % 4 > 0) bows.push(bows.at(-1)!);
  const { scores, courseAt } = scoreCourses(strip, evenly(reach, COURSE_STEP_PX), bows);
  const kept: Course[] = [];
  // a few looks for the best are quicker than sorting thousands
  for (let look = 0; look < COURSES; look++) {
    let best: Course | null = null;
    let most = -1;
    for (let k = 0; k < scores.length; k++) {
      if (scores[k]! <= most) continue;
      const course = courseAt(k);
      if (kept.some((other) => difference(course, other) < DIFFERS_PX)) continue;
      best = course;
      most = scores[k]!;
    }
    if (best !== null) kept.push(best);
  }
  return kept;
}

/** The outline with side s on another course: its ends slide along its neighbours. */
export function withCourse({ quad, bends }: BentQuad, s: number, { start, end, bow }: Course): BentQuad {
  const a = quad[s]!;
  const b = quad[(s + 1) % 4]!;
  const { nx, ny } = normalOf(a, b);
  const slide = (p: Point, along: Point, by: number): Point =>
    lerpPoint(p, along, by / ((along.x - p.x) * nx + (along.y - p.y) * ny));
  const from = slide(a, quad[(s + 3) % 4]!, start);
  const to = slide(b, quad[(s + 2) % 4]!, end);
  const share = -bow / (distance(from, to) || 1);
  const bend: Bend = [0.75 * share, share, 0.75 * share];
  return {
    quad: quad.map((p, i) => (i === s ? from : i === (s + 1) % 4 ? to : p)) as unknown as Quad,
    bends: bends.map((old, i) => (i === s ? bend : old)) as unknown as Bends,
  };
}
