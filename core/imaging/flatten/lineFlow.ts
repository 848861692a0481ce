import { createNormalEquations } from '../geometry/normalEquations';
import { peakOffset } from '../geometry/peakOffset';
import { tukeyWeight } from '../geometry/tukeyWeight';
import { smoothProfile, STRIPS } from './inkProfiles';

/*
 * The course of lines across a page as a whole, where no single one can be followed: handwriting, and print that climbs steeply.
 * Method: the page is cut into upright strips; each strip's profile of ink along the page is laid over its neighbour's
 * window by window, and the shift that fits best (normalised cross-correlation) says how far the lines climb from strip
 * to strip. The climbs are fitted by a surface whose slope is a cubic across the page, at its top and at its foot, and changes
 * evenly in between (after Zhang, Tan & Fan, "Restoration of curved document images", 2004).
 * Limits: writing that slopes on its paper counts as level.
 */

/** Height of the windows that are laid over each other, px of the flat page: two or three lines of writing. */
const WINDOW_PX = 96;
/** How far a window may shift from one strip to the next, px: 13 degrees. */
const REACH_PX = 9;
/** A shift is believed where it correlates at least this well. */
const LEAST_CORRELATION = 0.55;
/** Shifts needed before anything is said. */
const LEAST_SHIFTS = 60;
/** Lines are believed where at least this share of the shifts agrees with one smooth surface. */
const LEAST_AGREEING = 0.8;
/** What changes slower than over so many rows to either side is light, not ink, px. */
const LIGHT_PX = 18;

/** The course of lines over a page, by how far they sink, in page heights over the page's width. */
export interface LineFlow {
  readonly slopeAt: (u: number, v: number) => number;
}

/**
 * Measures it.
 * @param profiles - of a page whose long side is about 1,000 px
 * @returns null where there is too little to go by
 */
export const measureLineFlow = (profiles: readonly Float32Array[]): LineFlow | null =>
  fitClimbs(measureClimbs(profiles));

/** How far lines sink from one strip to the next at a place of the page, in page heights per page width. */
interface Climb {
  readonly u: number;
  readonly v: number;
  readonly slope: number;
  readonly weight: number;
}

function measureClimbs(ink: readonly Float32Array[]): Climb[] {
  const height = ink[0]!.length;
  const profiles = ink.map((profile) => {
    const light = smoothProfile(profile, LIGHT_PX);
    return profile.map((value, y) => value - light[y]!);
  });
  const climbs: Climb[] = [];
  for (let k = 0; k + 1 < STRIPS; k++) {
    for (let y = REACH_PX; y + WINDOW_PX + REACH_PX <= height; y += WINDOW_PX / 2) {
      const found = bestShift(profiles[k]!, profiles[k + 1]!, y);
      if (found === null) continue;
      climbs.push({
        u: (k + 1) / STRIPS,
        v: (y + WINDOW_PX / 2) / height,
        slope: (found.shift * STRIPS) / height,
        weight: found.correlation,
      });
    }
  }
  return climbs;
}

function bestShift(p: Float32Array, q: Float32Array, y: number): { shift: number; correlation: number } | null {
  const scores = new Float64Array(2 * REACH_PX + 1);
  const energy = (values: Float32Array, from: number): number => {
    let sum = 0;
    for (let i = from; i < from + WINDOW_PX; i++) sum += values[i]! * values[i]!;
    return sum;
  };
  const own = energy(p, y);
  if (own < WINDOW_PX * 2) return null; // blank paper
  for (let s = -REACH_PX; s <= REACH_PX; s++) {
    let sum = 0;
    for (let i = y; i < y + WINDOW_PX; i++) sum += p[i]! * q[i + s]!;
    scores[s + REACH_PX] = sum / Math.sqrt(own * energy(q, y + s) + 1e-9);
  }
  let best = 0;
  scores.forEach((score, i) => {
    if (score > scores[best]!) best = i;
  });
  if (best === 0 || best === 2 * REACH_PX || scores[best]! < LEAST_CORRELATION) return null;
  const fraction = peakOffset(scores[best - 1]!, scores[best]!, scores[best + 1]!);
  return { shift: best - REACH_PX + fraction, correlation: scores[best]! };
}

/** Powers of the climbs' polynomial at the head and at the foot: slopes, so one less than the quartic's. */
const POWERS = 4;

/** A climb further than this from the surface has no say at first, in page heights per page width. */
const FIRST_REACH = 0.2;
/** And once the surface is nearly right. */
const LAST_REACH = 0.08;
/** How hard the surface's bends are pulled towards nothing, a climb. */
const BEND_RIDGE = 0.002;
/** How hard its straight course is: hardly. */
const TILT_RIDGE = BEND_RIDGE * 0.02;

/** The slope's polynomials at a place: POWERS at the head, POWERS at the foot, mixed by how far down the page it is. */
function slopeBasis(u: number, v: number): number[] {
  const x = 2 * u - 1;
  const basis = new Array<number>(2 * POWERS);
  for (let k = 0, power = 1; k < POWERS; k++, power *= x) {
    basis[k] = power * (1 - v);
    basis[POWERS + k] = power * v;
  }
  return basis;
}

const slopeAt = (fit: Float64Array, u: number, v: number): number =>
  slopeBasis(u, v).reduce((sum, value, k) => sum + value * fit[k]!, 0);

/** Fits the lines' course (iteratively reweighted: lines that skip to a neighbour fall out); null with too little to go by. */
function fitClimbs(climbs: readonly Climb[]): LineFlow | null {
  if (climbs.length < LEAST_SHIFTS) return null;
  let fit: Float64Array | null = null;
  for (const reach of [null, FIRST_REACH, LAST_REACH, LAST_REACH, LAST_REACH, LAST_REACH]) {
    const equations = createNormalEquations(2 * POWERS);
    for (const { u, v, slope, weight } of climbs) {
      const trust: number = fit === null || reach === null ? 1 : tukeyWeight((slope - slopeAt(fit, u, v)) / reach);
      equations.add(slopeBasis(u, v), slope, weight * trust);
    }
    fit = equations.solve((k) => climbs.length * (k % POWERS === 0 ? TILT_RIDGE : BEND_RIDGE));
    if (fit === null) return null;
  }
  const coefficients = fit!;
  const agreeing = climbs.filter(({ u, v, slope }) => Math.abs(slope - slopeAt(coefficients, u, v)) < LAST_REACH);
  return agreeing.length < LEAST_AGREEING * climbs.length ? null : { slopeAt: (u, v) => slopeAt(coefficients, u, v) };
}
