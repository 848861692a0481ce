import { ALL_STRAIGHT, type Bend, type Bends } from '../geometry/bentOutline';
import { createNormalEquations } from '../geometry/normalEquations';
import { peakOffset } from '../geometry/peakOffset';
import { tukeyWeight } from '../geometry/tukeyWeight';
import { applyHomography, homographyBetween } from '../geometry/homography';
import type { Point } from '../geometry/point';
import { wholePicture, type Quad } from '../geometry/quad';
import { fitLongSide } from '../raster/resizeByArea';
import { lightnessPlane, type Plane } from '../raster/plane';
import type { PixelImage } from '../raster/pixelImage';
import { flattenPage, limitLongSide, readShape } from './flattenPage';

/*
 * How a page bends, told by what is on it, where its own edges are not seen: lines of writing and rules that should be
 * level are followed across the page.
 * Method: the page is cut into upright strips; each strip's profile of ink along the page is laid over its neighbour's
 * window by window, and the shift that fits best (normalised cross-correlation) says how far the lines climb from strip
 * to strip. The climbs are added up and fitted by a surface that is a quartic across the page, at its top and at its
 * foot, and changes evenly in between (after Zhang, Tan & Fan, "Restoration of curved document images", 2004). What is
 * straight in it turns the outline, what is not bends it.
 * Limits: lines must run across the page as it lies; writing that slopes on its paper is laid level with it.
 */

/** Long side of the flat page that lines are followed on: print is then about ten px high. */
const READING_LONG_SIDE_PX = 900;
/** Strips the page is cut into: fewer blur climbs, more have too little ink each. */
const STRIPS = 28;
/** Height of the windows that are laid over each other, px of the flat page: two or three lines of writing. */
const WINDOW_PX = 72;
/** How far a window may shift from one strip to the next, px: 13 degrees. */
const REACH_PX = 7;
/** A shift is believed where it correlates at least this well. */
const LEAST_CORRELATION = 0.55;
/** Shifts needed before anything is said. */
const LEAST_SHIFTS = 60;
/** Lines that bend by less than this share of the page's width are level enough. */
const LEAST_BOW = 0.004;

/** Lines are believed where at least this share of the shifts agrees with one smooth surface. */
const LEAST_AGREEING = 0.6;
/** Lines that tilt by less than this (page heights over the page's width) are level. */
const LEAST_TILT = 0.006;
/** Lines that tilt by more than this are no lines of the page. */
const MOST_TILT = 0.2;

/**
 * The outline whose sides follow the lines on the page, for one whose sides are not the paper's edges; null where the lines
 * are level or too few.
 * @param corners - the outline, px of the photo, as the page is read
 */
export function followLines(
  photo: PixelImage,
  corners: Quad,
): { readonly corners: Quad; readonly bends: Bends } | null {
  const shape = readShape(corners, photo);
  const flat = flattenPage(photo, shape, limitLongSide(shape.size, READING_LONG_SIDE_PX));
  const surface = fitClimbs(measureClimbs(lightnessPlane(fitLongSide(flat, READING_LONG_SIDE_PX))));
  if (surface === null) return null;
  const share = flat.height / flat.width; // climbs are in page heights, bends in shares of the side
  const { bow, tilt } = surface;
  const most = Math.max(...[0, 1].flatMap((v) => QUARTERS.map((u) => Math.abs(bow(u, v)))));
  const tilted = Math.max(Math.abs(tilt(0)), Math.abs(tilt(1)));
  if (tilted > MOST_TILT || (most * share < LEAST_BOW && tilted < LEAST_TILT)) return null;
  // positive climbs go down the page: out of its foot, and into its head
  const head: Bend = QUARTERS.map((u) => -bow(u, 0) * share);
  const foot: Bend = QUARTERS.map((u) => bow(1 - u, 1) * share);
  return {
    corners: tiltOutline(shape.corners, share, tilt(0), tilt(1)),
    bends: [head, ALL_STRAIGHT[1], foot, ALL_STRAIGHT[3]],
  };
}

/** The outline turned with the lines on the page: its head and foot lie along them, its other sides at right angles to their mean. */
function tiltOutline(corners: Quad, share: number, head: number, foot: number): Quad {
  const toPhoto = homographyBetween(wholePicture(1, share), corners); // the page with a width of one
  const lean = ((head + foot) / 2) * share; // tangent of the mean angle
  const at = (u: number, v: number): Point => {
    const tilt = (v === 0 ? head : foot) * share;
    return applyHomography(toPhoto, { x: u + (0.5 - v) * share * lean, y: v * share + (u - 0.5) * tilt });
  };
  return [at(0, 0), at(1, 0), at(1, 1), at(0, 1)];
}

/** Where along a side bends are given. */
const QUARTERS = [0.25, 0.5, 0.75] as const;

/** How far lines sink from one strip to the next at a place of the page, in page heights per page width. */
interface Climb {
  readonly u: number;
  readonly v: number;
  readonly slope: number;
  readonly weight: number;
}

function measureClimbs(page: Plane): Climb[] {
  const { width, height } = page;
  const profiles = Array.from({ length: STRIPS }, (_, k) =>
    inkProfile(page, Math.floor((k * width) / STRIPS), Math.floor(((k + 1) * width) / STRIPS)),
  );
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

/** Ink down one strip, with what changes slowly (light, pictures) taken away. */
function inkProfile({ width, height, data }: Plane, from: number, to: number): Float32Array {
  const means = new Float32Array(height);
  for (let y = 0; y < height; y++) for (let x = from; x < to; x++) means[y]! += data[y * width + x]! / (to - from);
  const reach = 14;
  return means.map((value, y) => {
    let sum = 0;
    let count = 0;
    for (let j = Math.max(0, y - reach); j <= Math.min(height - 1, y + reach); j++) {
      sum += means[j]!;
      count++;
    }
    return sum / count - value;
  });
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

/** The course of lines over the page, in page heights, positive downwards. */
interface LineSurface {
  /** How far lines leave their own straight course at (u, v). */
  readonly bow: (u: number, v: number) => number;
  /** How far lines at v sink from the left side to the right. */
  readonly tilt: (v: number) => number;
}

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
  const powers = Array.from({ length: POWERS }, (_, k) => x ** k);
  return [...powers.map((p) => p * (1 - v)), ...powers.map((p) => p * v)];
}

const slopeAt = (fit: Float64Array, u: number, v: number): number =>
  slopeBasis(u, v).reduce((sum, value, k) => sum + value * fit[k]!, 0);

/** Fits the lines' course (iteratively reweighted: lines that skip to a neighbour fall out); null with too little to go by. */
function fitClimbs(climbs: readonly Climb[]): LineSurface | null {
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
  return agreeing.length < LEAST_AGREEING * climbs.length ? null : surfaceOf(coefficients);
}

/** The slopes added up along u: straight from side to side, and what is left. */
function surfaceOf(coefficients: Float64Array): LineSurface {
  const raised = (from: number, u: number): number => {
    const x = 2 * u - 1;
    let sum = 0;
    for (let k = 0; k < POWERS; k++)
      sum += (coefficients[from + k]! * (x ** (k + 1) - (-1) ** (k + 1))) / (2 * (k + 1));
    return sum;
  };
  const above = (from: number, u: number): number => raised(from, u) - u * raised(from, 1);
  return {
    bow: (u, v) => above(0, u) * (1 - v) + above(POWERS, u) * v,
    tilt: (v) => raised(0, 1) * (1 - v) + raised(POWERS, 1) * v,
  };
}
