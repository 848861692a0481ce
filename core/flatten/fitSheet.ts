import { recoverPose } from '../geometry/aspectRatio';
import { distanceToBentSide, mostBent, turnBends, type Bends } from '../geometry/bentOutline';
import { leastSquares } from '../geometry/leastSquares';
import { mapQuad, turnQuad, type Quad } from '../geometry/quad';
import type { Point } from '../geometry/point';

/*
 * The shape of a sheet that does not lie flat, from its bent outline.
 * Model: a ruled surface that bends but does not stretch. Its top and bottom edges are curves of slopes, integrated by
 * arc length (so that distances along the paper stay what they were); straight rulings join them. The same curve at both
 * edges makes a cylinder: a bow, a curl along a binding, a gentle crease; different ones a bow that fades towards an edge.
 * Pose, focal length, lens distortion, proportions and slopes are found together by least squares on the outline. After Liang, DeMenthon & Doermann, "Geometric rectification of
 * camera-captured document images" (PAMI 30, 2008), with the outline in place of texture flow.
 * Limits: bends in one direction only; a crumpled sheet stays crumpled.
 */

/** Slopes are sums of this many cosines along the edge. */
const MODES = 5;
const STEPS = 32;
/** Bends under this share of a side are the noise of finding them. */
const FLAT_BELOW = 0.0025;
/** One residual of size 1 for this share of the photo's long side. */
const NOISE_SHARE = 0.0006;
const FOCAL_LOG_SPREAD = 0.14;
const KNOWN_FOCAL_LOG_SPREAD = 0.03;
/** First radial distortion coefficient; phones correct most of theirs. */
const RADIAL_SPREAD = 0.015;
/** How steep a sheet stands at its edges, and how much that changes from its top to its foot, in rad: of the shapes that look alike, the flattest is meant. */
const SLOPE_SPREAD = 0.35;
const SLOPE_CHANGE_SPREAD = 0.4;

export interface FittedSheet {
  /** Width over height of the paper. */
  readonly aspect: number;
  /** Where in the photo the place (u, v) of the page lies, both 0 to 1. */
  readonly toPhoto: (u: number, v: number) => Point;
}

export interface SheetEvidence {
  readonly corners: Quad;
  readonly bends: Bends;
  readonly photoWidth: number;
  readonly photoHeight: number;
  /** Focal length over the photo's long side, where the file tells it. */
  readonly focalShare?: number | undefined;
}

/**
 * Fits the sheet; method and limits above. Takes 20 to 50 ms where there is something to fit.
 * @param evidence - corners in photo pixels, TL, TR, BR, BL as the page is read, and how the sides leave their chords
 * @returns where each place of the page lies in photo pixels; null where the sides are straight and a homography says it all
 * @throws FotoplanError OUTLINE_DEGENERATE when three corners lie on one line
 */
export function fitSheet(evidence: SheetEvidence): FittedSheet | null {
  if (mostBent(evidence.bends) < FLAT_BELOW) return null;
  const across = fitProfiles(evidence);
  const turned = fitProfiles({ ...evidence, corners: turnQuad(evidence.corners, 1), bends: turnBends(evidence.bends, 1) });
  if (across.cost <= turned.cost) return across.sheet;
  return { aspect: 1 / turned.sheet.aspect, toPhoto: (u, v) => turned.sheet.toPhoto(1 - v, u) };
}

interface Fit {
  readonly sheet: FittedSheet;
  readonly cost: number;
}

/** Parameters: 3 of rotation, 3 of position, log focal length, log aspect, radial distortion, then the slopes of the top and the bottom edge. */
const POSE = 9;
const SIZE = POSE + 2 * MODES;
const SAMPLES_LONG = 17;
const SAMPLES_SHORT = 7;

function fitProfiles({ corners, bends, photoWidth, photoHeight, focalShare }: SheetEvidence): Fit {
  const longSide = Math.max(photoWidth, photoHeight);
  const toCamera = (p: Point): Point => ({ x: (p.x - photoWidth / 2) / longSide, y: (p.y - photoHeight / 2) / longSide });
  const quad = mapQuad(corners, toCamera);
  const start = poseOf(corners, photoWidth, photoHeight, focalShare);
  const count = 2 * SAMPLES_LONG + 2 * SAMPLES_SHORT + 8 + 2 + 3 * MODES;
  const priorFocal = start[6]!;
  const focalSpread = focalShare === undefined ? FOCAL_LOG_SPREAD : KNOWN_FOCAL_LOG_SPREAD;
  const residuals = (p: Float64Array, out: Float64Array): void => {
    const sheet = readSheet(p);
    let at = 0;
    const off = (q: Point, side: number): void => {
      out[at++] = distanceToBentSide(q, quad[side]!, quad[(side + 1) % 4]!, bends[side]!) / NOISE_SHARE;
    };
    for (let i = 0; i < SAMPLES_LONG; i++) {
      const u = (i + 0.5) / SAMPLES_LONG;
      off(project(sheet, u, 0), 0);
      off(project(sheet, u, 1), 2);
    }
    for (let i = 0; i < SAMPLES_SHORT; i++) {
      const v = (i + 0.5) / SAMPLES_SHORT;
      off(project(sheet, 1, v), 1);
      off(project(sheet, 0, v), 3);
    }
    for (let c = 0; c < 4; c++) {
      const q = project(sheet, c === 1 || c === 2 ? 1 : 0, c >= 2 ? 1 : 0);
      out[at++] = (q.x - quad[c]!.x) / NOISE_SHARE / 2;
      out[at++] = (q.y - quad[c]!.y) / NOISE_SHARE / 2;
    }
    out[at++] = (p[6]! - priorFocal) / focalSpread;
    out[at++] = p[8]! / RADIAL_SPREAD;
    for (let k = 0; k < MODES; k++) {
      const top = p[POSE + k]! * (k + 1);
      const bottom = p[POSE + MODES + k]! * (k + 1);
      out[at++] = top / SLOPE_SPREAD;
      out[at++] = bottom / SLOPE_SPREAD;
      out[at++] = (top - bottom) / SLOPE_CHANGE_SPREAD;
    }
  };
  let best: Fit | null = null;
  for (const bow of [0.12, -0.12]) {
    const from = start.slice();
    from[POSE] = from[POSE + MODES] = bow;
    const { parameters, cost } = leastSquares(residuals, from, count);
    if (best !== null && cost >= best.cost) continue;
    const sheet = readSheet(parameters);
    best = {
      cost,
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

/** A sheet ready to be looked at: its edge curves by arc length and its place before the camera. */
interface Sheet {
  readonly aspect: number;
  readonly focal: number;
  readonly radial: number;
  readonly rotation: readonly number[];
  readonly position: readonly [number, number, number];
  readonly top: EdgeCurve;
  readonly bottom: EdgeCurve;
}

/** Positions along the chord direction (centred) and heights at STEPS + 1 places of equal arc length. */
interface EdgeCurve {
  readonly along: Float64Array;
  readonly height: Float64Array;
}

function readSheet(p: Float64Array): Sheet {
  const aspect = Math.exp(p[7]!);
  return {
    aspect,
    focal: Math.exp(p[6]!),
    radial: p[8]!,
    rotation: rotationOf(p[0]!, p[1]!, p[2]!),
    position: [p[3]!, p[4]!, p[5]!],
    top: edgeCurve(p, POSE, aspect),
    bottom: edgeCurve(p, POSE + MODES, aspect),
  };
}

const COSINES = Float64Array.from({ length: MODES * STEPS }, (_, i) => Math.cos((((i % MODES) + 1) * Math.PI * (Math.floor(i / MODES) + 0.5)) / STEPS));

function edgeCurve(p: Float64Array, from: number, width: number): EdgeCurve {
  const along = new Float64Array(STEPS + 1);
  const height = new Float64Array(STEPS + 1);
  const ds = width / STEPS;
  for (let i = 0; i < STEPS; i++) {
    let slope = 0;
    for (let k = 0; k < MODES; k++) slope += p[from + k]! * COSINES[i * MODES + k]!;
    along[i + 1] = along[i]! + Math.cos(slope) * ds;
    height[i + 1] = height[i]! + Math.sin(slope) * ds;
  }
  const middle = along[STEPS]! / 2;
  for (let i = 0; i <= STEPS; i++) along[i]! -= middle;
  return { along, height };
}

function project(sheet: Sheet, u: number, v: number): Point {
  const at = Math.min(STEPS - 1, Math.max(0, Math.floor(u * STEPS)));
  const f = u * STEPS - at; // beyond the ends the last piece goes on straight
  const read = (values: Float64Array): number => values[at]! * (1 - f) + values[at + 1]! * f;
  const x = read(sheet.top.along) * (1 - v) + read(sheet.bottom.along) * v;
  const z = read(sheet.top.height) * (1 - v) + read(sheet.bottom.height) * v;
  const y = v - 0.5;
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
  return [c + x * x * k, x * y * k - z * s, x * z * k + y * s, y * x * k + z * s, c + y * y * k, y * z * k - x * s, z * x * k - y * s, z * y * k + x * s, c + z * z * k];
}

/** Pose, focal length and aspect of the flat sheet with these corners, as the fit's first guess. */
function poseOf(corners: Quad, photoWidth: number, photoHeight: number, focalShare: number | undefined): Float64Array {
  const { aspect, focalShare: f, across, down, corner } = recoverPose(corners, photoWidth, photoHeight, focalShare);
  const norm = (Math.hypot(...across) + Math.hypot(...down)) / 2;
  const r1 = across.map((value) => value / norm);
  const r2 = down.map((value) => value / norm);
  const t = corner.map((value, i) => (value + (across[i]! * aspect + down[i]!) / 2) / norm);
  const first = unit(r1);
  const along = first.reduce((sum, value, i) => sum + value * r2[i]!, 0);
  const second = unit(r2.map((value, i) => value - along * first[i]!));
  const third = [first[1]! * second[2]! - first[2]! * second[1]!, first[2]! * second[0]! - first[0]! * second[2]!, first[0]! * second[1]! - first[1]! * second[0]!];
  const axis = axisAngle([first[0]!, second[0]!, third[0]!, first[1]!, second[1]!, third[1]!, first[2]!, second[2]!, third[2]!]);
  const start = new Float64Array(SIZE);
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
    const columns = [0, 1, 2].map((c) => [r[c]! + (c === 0 ? 1 : 0), r[3 + c]! + (c === 1 ? 1 : 0), r[6 + c]! + (c === 2 ? 1 : 0)]);
    const axis = unit(columns.sort((p, q) => Math.hypot(...q) - Math.hypot(...p))[0]!);
    return [axis[0]! * angle, axis[1]! * angle, axis[2]! * angle];
  }
  const k = angle / (2 * Math.sin(angle));
  return [(r[7]! - r[5]!) * k, (r[2]! - r[6]!) * k, (r[3]! - r[1]!) * k];
}
