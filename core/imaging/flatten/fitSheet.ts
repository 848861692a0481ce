import { recoverPose, TYPICAL_FOCAL_RATIO } from '../geometry/aspectRatio';
import { distanceToBentSide, mostBent, SIDE_DETAIL, type Bend, type Bends } from '../geometry/bentOutline';
import { leastSquares } from '../geometry/leastSquares';
import { mapQuad } from '../geometry/quad';
import type { Point } from '../geometry/point';
import type { FittedSheet, SheetEvidence } from './fittedSheet';
import { interpolateSides } from './interpolateSides';

/*
 * The shape of a sheet that does not lie flat, from its bent outline.
 * Model: a sheet that bends across straight rulings and does not stretch. Its profile is a curve of slopes, integrated by
 * arc length (so that distances along the paper stay what they were), and may fade from one end of the rulings to the other.
 * Rulings along a side make a bow, a curl along a binding, a gentle crease; oblique ones a corner that lifts off.
 * Pose, focal length, lens distortion, proportions, rulings, fade and slopes are found together by least squares on the
 * outline. After Liang, DeMenthon & Doermann, "Geometric rectification of camera-captured document images" (PAMI 30, 2008),
 * with the outline in place of texture flow.
 * Limits: bends in one direction only. An outline that no such sheet has is laid flat between its sides instead
 * (interpolateSides); a crumpled sheet stays crumpled.
 */

/** What depends on how finely the outline is known. */
interface Detail {
  /** Slopes are sums of this many cosines across the rulings. */
  readonly modes: number;
  /** One residual of size 1 for this share of the photo's long side. */
  readonly noiseShare: number;
  /** How far the profile fades to either end (standard deviation), as a share: of the shapes that look alike, the evenest is meant. */
  readonly fadeSpread: number;
  /** Where rulings along the sides cost more than this, oblique ones are tried. */
  readonly obliqueAbove: number;
}

/** Where each side is told by three numbers, whose errors all its places share. */
const SKETCHED: Detail = { modes: 5, noiseShare: 0.0009, fadeSpread: 0.7, obliqueAbove: 6 };
/** Where some side was traced, with its waves and folds. */
const TRACED: Detail = { modes: 14, noiseShare: 0.0007, fadeSpread: 0.4, obliqueAbove: 3 };

const isTraced = (bend: Bend): boolean => bend.length === SIDE_DETAIL;
const detailOf = (bends: Bends): Detail => (bends.some(isTraced) ? TRACED : SKETCHED);

/** Steps in which a profile is added up by its length. */
const STEPS = 64;
/** Bends under this share of a side are the noise of finding them. */
const FLAT_BELOW = 0.0025;
/** Standard deviation of the logarithm of the focal length where the lens is not told: phones' main lenses are within a seventh of each other. */
const FOCAL_LOG_SPREAD = 0.14;
/** And where the photo tells it: what cropping and stabilising change. */
const KNOWN_FOCAL_LOG_SPREAD = 0.03;
/** First radial distortion coefficient; phones correct most of theirs. */
const RADIAL_SPREAD = 0.03;
/** How steep a sheet stands at its edges (standard deviation), in rad: of the shapes that look alike, the flattest is meant. */
const SLOPE_SPREAD = 0.28;
/** How far rulings turn from where the search begins, in rad. */
const RULING_SPREAD = 0.02;
/** And oblique ones, of which only the quarter is known. */
const OBLIQUE_SPREAD = 0.25;
/** Being rarer, they cost so much more. */
const OBLIQUE_COST = 2;
/** A fit that costs less needs no other to be tried. */
const WELL_EXPLAINED = 3;
/** Outlines of sheets cost 1 to 20, waves and folds up to 50; from here on a fit explains nothing. */
const UNEXPLAINED_ABOVE = 60;

/**
 * Fits the sheet; method and limits above. Takes 10 to 40 ms where there is something to fit.
 * @param evidence - corners in photo pixels, TL, TR, BR, BL as the page is read, and how the sides leave their chords
 * @returns where each place of the page lies in photo pixels; null where the sides are straight and a homography says it all
 * @throws FotoplanError OUTLINE_DEGENERATE when three corners lie on one line
 */
export function fitSheet(evidence: SheetEvidence): FittedSheet | null {
  if (mostBent(evidence.bends) < FLAT_BELOW) return null;
  const start = poseOf(evidence);
  const fits: Fit[] = [];
  for (const ruling of likelyRulings(evidence.bends)) {
    fits.push(fitFrom(evidence, start, ruling, 0));
    if (fits[0]!.cost < WELL_EXPLAINED) break;
  }
  if (fits.every(({ cost }) => cost > detailOf(evidence.bends).obliqueAbove))
    for (const ruling of [Math.PI / 4, -Math.PI / 4]) fits.push(fitFrom(evidence, start, ruling, OBLIQUE_COST));
  const best = fits.reduce((p, q) => (q.cost < p.cost ? q : p));
  return best.cost > UNEXPLAINED_ABOVE ? interpolateSides(evidence) : best.sheet;
}

/** Directions across rulings that lie along the sides, in rad on the page: first the one in which the sides bend more. */
function likelyRulings([top, right, bottom, left]: Bends): readonly number[] {
  const most = (...sides: readonly Bend[]): number => Math.max(...sides.flat().map(Math.abs));
  return most(top, bottom) >= most(left, right) ? [0, Math.PI / 2] : [Math.PI / 2, 0];
}

interface Fit {
  readonly sheet: FittedSheet;
  readonly cost: number;
}

/** Parameters: 3 of rotation, 3 of position, log focal length, log aspect, radial distortion, direction of the rulings, fade, then slopes. */
const RULING = 9;
/** Index of the fade among the parameters. */
const FADE = 10;
/** Index of the first slope. */
const SLOPES = 11;
/** Places along a side that are compared: of one that was traced, those where it was. */
const samplesOf = (bend: Bend): number => (isTraced(bend) ? SIDE_DETAIL : 11);

/** The best fit near a pose with rulings about a direction, in rad on the page; `more` is added to its cost. */
function fitFrom(
  { corners, bends, photoWidth, photoHeight, focalRatio }: SheetEvidence,
  start: Float64Array,
  ruling: number,
  more: number,
): Fit {
  const longSide = Math.max(photoWidth, photoHeight);
  const quad = mapQuad(corners, (p) => ({
    x: (p.x - photoWidth / 2) / longSide,
    y: (p.y - photoHeight / 2) / longSide,
  }));
  const samples = bends.map(samplesOf);
  const { modes, fadeSpread } = detailOf(bends);
  const noise = bends.map((bend) => (isTraced(bend) ? TRACED : SKETCHED).noiseShare);
  const rulingSpread = more === 0 ? RULING_SPREAD : OBLIQUE_SPREAD;
  const count = samples.reduce((p, q) => p + q) + 8 + 4 + modes;
  const priorFocal = Math.log(focalRatio ?? TYPICAL_FOCAL_RATIO);
  const focalSpread = focalRatio === null || focalRatio === undefined ? FOCAL_LOG_SPREAD : KNOWN_FOCAL_LOG_SPREAD;
  const residuals = (p: Float64Array, out: Float64Array): void => {
    const sheet = readSheet(p);
    let at = 0;
    for (let s = 0; s < 4; s++) {
      for (let i = 0; i < samples[s]!; i++) {
        const t = (i + 0.5) / samples[s]!;
        const place = s % 2 === 0 ? project(sheet, t, s / 2) : project(sheet, s === 1 ? 1 : 0, t);
        out[at++] = distanceToBentSide(place, quad[s]!, quad[(s + 1) % 4]!, bends[s]!) / noise[s]!;
      }
    }
    for (let c = 0; c < 4; c++) {
      const q = project(sheet, c === 1 || c === 2 ? 1 : 0, c >= 2 ? 1 : 0);
      out[at++] = (q.x - quad[c]!.x) / SKETCHED.noiseShare / 2;
      out[at++] = (q.y - quad[c]!.y) / SKETCHED.noiseShare / 2;
    }
    out[at++] = (p[6]! - priorFocal) / focalSpread;
    out[at++] = p[8]! / RADIAL_SPREAD;
    out[at++] = (p[RULING]! - ruling) / rulingSpread;
    out[at++] = p[FADE]! / fadeSpread;
    for (let k = 0; k < modes; k++) out[at++] = (p[SLOPES + k]! * (k + 1)) / SLOPE_SPREAD;
  };
  let best: Fit | null = null;
  for (const bow of [0.12, -0.12]) {
    if (best !== null && best.cost - more < WELL_EXPLAINED) break;
    const from = start.slice();
    from[RULING] = ruling;
    from[SLOPES] = bow;
    const { parameters, cost } = leastSquares(residuals, from, count);
    if (best !== null && cost + more >= best.cost) continue;
    const sheet = readSheet(parameters);
    best = {
      cost: cost + more,
      sheet: {
        aspect: sheet.aspect,
        toPhoto: (u, v) => {
          const q = project(sheet, u, v);
          return { x: q.x * longSide + photoWidth / 2, y: q.y * longSide + photoHeight / 2 };
        },
      },
    };
  }
  return best!;
}

/** A sheet ready to be looked at: its profiles by arc length and its place before the camera. */
interface Sheet {
  readonly aspect: number;
  readonly focal: number;
  readonly radial: number;
  readonly rotation: readonly number[];
  readonly position: readonly [number, number, number];
  /** Across the rulings, on the page; the rulings run at right angles to it. */
  readonly across: Point;
  /** Half the page's extent across the rulings and along them. */
  readonly reachAcross: number;
  readonly reachAlong: number;
  /** At either end of the rulings. */
  readonly first: Profile;
  readonly last: Profile;
}

/** Positions across the rulings (centred) and heights at STEPS + 1 places of equal arc length. */
interface Profile {
  readonly along: Float64Array;
  readonly height: Float64Array;
}

function readSheet(p: Float64Array): Sheet {
  const aspect = Math.exp(p[7]!);
  const across = { x: Math.cos(p[RULING]!), y: Math.sin(p[RULING]!) };
  const reachAcross = (aspect * Math.abs(across.x) + Math.abs(across.y)) / 2;
  return {
    aspect,
    focal: Math.exp(p[6]!),
    radial: p[8]!,
    rotation: rotationOf(p[0]!, p[1]!, p[2]!),
    position: [p[3]!, p[4]!, p[5]!],
    across,
    reachAcross,
    reachAlong: (aspect * Math.abs(across.y) + Math.abs(across.x)) / 2,
    first: profileOf(p, 1 - p[FADE]!, 2 * reachAcross),
    last: profileOf(p, 1 + p[FADE]!, 2 * reachAcross),
  };
}

/** The slope at the middle of each step for each mode, [step, mode]. */
const COSINES = Float64Array.from({ length: TRACED.modes * STEPS }, (_, i) =>
  Math.cos((((i % TRACED.modes) + 1) * Math.PI * (Math.floor(i / TRACED.modes) + 0.5)) / STEPS),
);

function profileOf(p: Float64Array, strength: number, width: number): Profile {
  const along = new Float64Array(STEPS + 1);
  const height = new Float64Array(STEPS + 1);
  const ds = width / STEPS;
  const modes = p.length - SLOPES;
  for (let i = 0; i < STEPS; i++) {
    let slope = 0;
    for (let k = 0; k < modes; k++) slope += p[SLOPES + k]! * COSINES[i * TRACED.modes + k]!;
    slope *= strength;
    along[i + 1] = along[i]! + Math.cos(slope) * ds;
    height[i + 1] = height[i]! + Math.sin(slope) * ds;
  }
  const middle = along[STEPS]! / 2;
  for (let i = 0; i <= STEPS; i++) along[i]! -= middle;
  return { along, height };
}

function project(sheet: Sheet, u: number, v: number): Point {
  const { across, reachAcross, reachAlong, first, last } = sheet;
  const pageX = (u - 0.5) * sheet.aspect;
  const pageY = v - 0.5;
  const s = (0.5 + (pageX * across.x + pageY * across.y) / (2 * reachAcross)) * STEPS;
  const t = pageY * across.x - pageX * across.y;
  const fade = 0.5 + t / (2 * reachAlong);
  const at = Math.min(STEPS - 1, Math.max(0, Math.floor(s)));
  const f = s - at; // beyond the ends the last piece goes on straight
  const read = (values: Float64Array): number => values[at]! * (1 - f) + values[at + 1]! * f;
  const along = read(first.along) * (1 - fade) + read(last.along) * fade;
  const z = read(first.height) * (1 - fade) + read(last.height) * fade;
  const x = along * across.x - t * across.y;
  const y = along * across.y + t * across.x;
  const r = sheet.rotation;
  const [tx, ty, tz] = sheet.position;
  const depth = r[6]! * x + r[7]! * y + r[8]! * z + tz;
  const px = (r[0]! * x + r[1]! * y + r[2]! * z + tx) / depth;
  const py = (r[3]! * x + r[4]! * y + r[5]! * z + ty) / depth;
  const scale = sheet.focal * (1 + sheet.radial * (px * px + py * py));
  return { x: px * scale, y: py * scale };
}

/** Rotation matrix of an axis-angle vector (Rodrigues). */
function rotationOf(rx: number, ry: number, rz: number): number[] {
  const angle = Math.hypot(rx, ry, rz);
  const [x, y, z] = angle < 1e-12 ? [0, 0, 0] : [rx / angle, ry / angle, rz / angle];
  const c = Math.cos(angle);
  const s = Math.sin(angle);
  const k = 1 - c;
  return [
    c + x * x * k,
    x * y * k - z * s,
    x * z * k + y * s,
    y * x * k + z * s,
    c + y * y * k,
    y * z * k - x * s,
    z * x * k - y * s,
    z * y * k + x * s,
    c + z * z * k,
  ];
}

/** Pose, focal length and aspect of the flat sheet with these corners, as the fit's first guess. */
function poseOf({ corners, bends, photoWidth, photoHeight, focalRatio }: SheetEvidence): Float64Array {
  const { aspect, focalRatio: f, across, down, corner } = recoverPose(corners, photoWidth, photoHeight, focalRatio);
  const norm = (Math.hypot(...across) + Math.hypot(...down)) / 2;
  const r1 = across.map((value) => value / norm);
  const r2 = down.map((value) => value / norm);
  const t = corner.map((value, i) => (value + (across[i]! * aspect + down[i]!) / 2) / norm);
  const first = unit(r1);
  const along = first.reduce((sum, value, i) => sum + value * r2[i]!, 0);
  const second = unit(r2.map((value, i) => value - along * first[i]!));
  const third = [
    first[1]! * second[2]! - first[2]! * second[1]!,
    first[2]! * second[0]! - first[0]! * second[2]!,
    first[0]! * second[1]! - first[1]! * second[0]!,
  ];
  const axis = axisAngle([
    first[0]!,
    second[0]!,
    third[0]!,
    first[1]!,
    second[1]!,
    third[1]!,
    first[2]!,
    second[2]!,
    third[2]!,
  ]);
  const start = new Float64Array(SLOPES + detailOf(bends).modes);
  start.set([...axis, ...t, Math.log(f), Math.log(aspect)]);
  return start;
}

const unit = (v: readonly number[]): number[] => {
  const length = Math.hypot(...v) || 1;
  return v.map((x) => x / length);
};

/** The axis-angle vector of a rotation matrix, row-major. */
function axisAngle(r: readonly number[]): [number, number, number] {
  const angle = Math.acos(Math.min(1, Math.max(-1, (r[0]! + r[4]! + r[8]! - 1) / 2)));
  if (angle < 1e-9) return [0, 0, 0];
  if (Math.PI - angle < 1e-4) {
    // half a turn: the axis is the longest column of R + I
    const columns = [0, 1, 2].map((c) => [
      r[c]! + (c === 0 ? 1 : 0),
      r[3 + c]! + (c === 1 ? 1 : 0),
      r[6 + c]! + (c === 2 ? 1 : 0),
    ]);
    const axis = unit(columns.sort((p, q) => Math.hypot(...q) - Math.hypot(...p))[0]!);
    return [axis[0]! * angle, axis[1]! * angle, axis[2]! * angle];
  }
  const k = angle / (2 * Math.sin(angle));
  return [(r[7]! - r[5]!) * k, (r[2]! - r[6]!) * k, (r[3]! - r[1]!) * k];
}
