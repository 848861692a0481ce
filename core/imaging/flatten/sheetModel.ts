import type { Point } from '../geometry/point';

/*
 * A sheet that bends along straight rulings and does not stretch, before a camera.
 * The rulings are parallel, or meet in an apex outside the page: each is a direction, and directions follow each other at the
 * angle they have on the flat paper (a developable cone, of which the cylinder is the end). How the sheet bends from ruling to
 * ruling is its slope, a sum of cosines; it may fade from one end of the rulings to the other, which real sheets hardly do.
 * After Liang, DeMenthon & Doermann, "Geometric rectification of camera-captured document images" (PAMI 30, 2008), whose
 * strips these rulings take the place of.
 */

/** Where the parameters of a sheet stand in their array; slopes fill the rest. */
export const PARAMETER = {
  /** Rotation, an axis times an angle in rad: three numbers. */
  rotation: 0,
  /** Place of the page's middle before the camera, in page heights: three numbers. */
  position: 3,
  /** Logarithm of the focal length over the photo's long side. */
  logFocal: 6,
  /** Logarithm of the page's width over its height. */
  logAspect: 7,
  /** First coefficient of radial distortion. */
  radial: 8,
  /** Direction across the ruling through the page's middle, in rad on the page. */
  ruling: 9,
  /** How much more the sheet bends at one end of the rulings than in their middle, as a share. */
  fade: 10,
  /** One over the distance from the page's middle to where the rulings meet, in page heights; 0 where they are parallel. */
  convergence: 11,
  /** The first slope, in rad: of half a wave across the page. The next are of one wave, one and a half, and so on. */
  slopes: 12,
} as const;

/** Steps in which a sheet is added up across its rulings. */
export const STEPS = 64;
/** Slopes at most. */
export const MOST_MODES = 14;
/** Rulings that meet further away are as good as parallel; 0 would be a division by nought. */
const MIN_CONVERGENCE = 1e-5;
/** The apex lies outside the page: at most so much of the way from it to the page's middle is page. */
const MAX_CONVERGENCE = 0.85;

/** A sheet ready to be looked at: its rulings as directions, and its place before the camera. */
export interface Sheet {
  readonly aspect: number;
  readonly focal: number;
  readonly radial: number;
  readonly rotation: readonly number[];
  readonly position: readonly [number, number, number];
  /** Across the ruling through the page's middle; that runs at right angles to it. */
  readonly across: Point;
  /** Half the page's extent along the rulings, in page heights. */
  readonly reachAlong: number;
  /** As among the parameters, and never 0. */
  readonly convergence: number;
  /** Angles at the apex of the page's first and last ruling, in rad. */
  readonly firstAngle: number;
  readonly lastAngle: number;
  /** Directions of STEPS + 1 rulings of equal angles, [ruling, across / along / up], as at either end of the rulings. */
  readonly first: Float64Array;
  readonly last: Float64Array;
  /** How far either end is moved across and up, in page heights: where the sheet fades, its two sides stay what they are to each other. */
  readonly firstShift: Shift;
  readonly lastShift: Shift;
}

interface Shift {
  readonly aside: number;
  readonly up: number;
}

/** The sheet with these parameters. */
export function sheetOf(p: Float64Array): Sheet {
  const aspect = Math.exp(p[PARAMETER.logAspect]!);
  const across = { x: Math.cos(p[PARAMETER.ruling]!), y: Math.sin(p[PARAMETER.ruling]!) };
  const reachAlong = (aspect * Math.abs(across.y) + Math.abs(across.x)) / 2;
  const wanted = p[PARAMETER.convergence]!;
  const size = Math.max(MIN_CONVERGENCE, Math.min(MAX_CONVERGENCE / reachAlong, Math.abs(wanted)));
  const convergence = wanted < 0 ? -size : size;
  const angles = [-0.5, 0.5].flatMap((x) =>
    [-0.5, 0.5].map((y) =>
      angleOf(x * aspect * across.x + y * across.y, y * across.x - x * aspect * across.y, convergence),
    ),
  );
  const [least, greatest] = [Math.min(...angles), Math.max(...angles)];
  const [firstAngle, lastAngle] = convergence > 0 ? [least, greatest] : [greatest, least];
  const fade = p[PARAMETER.fade]!;
  const first = rulingsOf(p, 1 - fade, firstAngle, lastAngle);
  const last = rulingsOf(p, 1 + fade, firstAngle, lastAngle);
  const flatSum = Math.sin(firstAngle) + Math.sin(lastAngle);
  const shiftOf = (rulings: Float64Array): Shift => ({
    aside: (flatSum - rulings[0]! - rulings[3 * STEPS]!) / (2 * convergence),
    up: (-rulings[2]! - rulings[3 * STEPS + 2]!) / (2 * convergence),
  });
  return {
    aspect,
    focal: Math.exp(p[PARAMETER.logFocal]!),
    radial: p[PARAMETER.radial]!,
    rotation: rotationMatrix(p[0]!, p[1]!, p[2]!),
    position: [p[PARAMETER.position]!, p[PARAMETER.position + 1]!, p[PARAMETER.position + 2]!],
    across,
    reachAlong,
    convergence,
    firstAngle,
    lastAngle,
    first,
    last,
    firstShift: shiftOf(first),
    lastShift: shiftOf(last),
  };
}

/** The angle at the apex of the ruling through a place of the flat page, across and along the middle ruling. */
const angleOf = (across: number, along: number, convergence: number): number =>
  Math.atan2(convergence * across, 1 + convergence * along);

/** The slope at the middle of each step for each mode, [step, mode]. */
const COSINES = Float64Array.from({ length: MOST_MODES * STEPS }, (_, i) =>
  Math.cos((((i % MOST_MODES) + 1) * Math.PI * (Math.floor(i / MOST_MODES) + 0.5)) / STEPS),
);

/** The part of a course of slopes, one a step, that has the form of each mode. */
export const modesOf = (slopes: readonly number[], modes: number): number[] =>
  Array.from(
    { length: modes },
    (_, k) => (2 / STEPS) * slopes.reduce((sum, slope, step) => sum + slope * COSINES[step * MOST_MODES + k]!, 0),
  );

/** The sheet's slope in the middle of each step, in rad. */
function slopesOf(p: Float64Array, strength: number): Float64Array {
  const modes = p.length - PARAMETER.slopes;
  const slopes = new Float64Array(STEPS);
  for (let step = 0, c = 0; step < STEPS; step++, c += MOST_MODES) {
    let slope = 0;
    for (let k = 0; k < modes; k++) slope += p[PARAMETER.slopes + k]! * COSINES[c + k]!;
    slopes[step] = slope * strength;
  }
  return slopes;
}

/**
 * Rulings of a sheet as unit vectors: a curve on the sphere whose length between two of them is the angle they have on the flat
 * paper, so that nothing stretches; how it turns aside is the change of the slope.
 */
function rulingsOf(p: Float64Array, strength: number, firstAngle: number, lastAngle: number): Float64Array {
  const slopes = slopesOf(p, strength);
  const out = new Float64Array(3 * (STEPS + 1));
  const turn = (lastAngle - firstAngle) / STEPS;
  const before = -firstAngle / turn; // steps in front of the middle ruling
  const middle = Math.min(STEPS - 1, Math.max(0, Math.floor(before)));
  followRulings(out, slopes, turn, { from: middle, way: 1, first: middle + 1 - before });
  followRulings(out, slopes, turn, { from: middle, way: -1, first: before - middle });
  return out;
}

/** Which rulings are followed: from the middle one, in the step `from`, towards one end; `first` is the share of that step. */
interface Course {
  readonly from: number;
  readonly way: 1 | -1;
  readonly first: number;
}

/** Writes them: each step turns the ruling towards the tangent, and between steps the tangent turns by the change of slope. */
function followRulings(out: Float64Array, slopes: Float64Array, turn: number, { from, way, first }: Course): void {
  let [d0, d1, d2] = [0, 1, 0]; // the ruling
  let [t0, t1, t2] = [Math.cos(slopes[from]!), 0, Math.sin(slopes[from]!)]; // at right angles to it, in the sheet
  let [n0, n1, n2] = [-t2, 0, t0]; // and out of the sheet
  let [c, s] = [Math.cos(turn * first), Math.sin(turn * first) * way];
  for (let step = from; step >= 0 && step < STEPS; step += way) {
    if (step !== from) {
      const bend = slopes[step]! - slopes[step - way]!;
      const [cb, sb] = [Math.cos(bend), Math.sin(bend)];
      const [m0, m1, m2] = [n0 * cb - t0 * sb, n1 * cb - t1 * sb, n2 * cb - t2 * sb];
      [t0, t1, t2] = [t0 * cb + n0 * sb, t1 * cb + n1 * sb, t2 * cb + n2 * sb];
      [n0, n1, n2] = [m0, m1, m2];
    }
    const [e0, e1, e2] = [d0 * c + t0 * s, d1 * c + t1 * s, d2 * c + t2 * s];
    [t0, t1, t2] = [t0 * c - d0 * s, t1 * c - d1 * s, t2 * c - d2 * s];
    [d0, d1, d2] = [e0, e1, e2];
    const at = 3 * (way === 1 ? step + 1 : step);
    out[at] = d0;
    out[at + 1] = d1;
    out[at + 2] = d2;
    if (step === from) [c, s] = [Math.cos(turn), Math.sin(turn) * way];
  }
}

/** Where a place of the page, in shares of its width and height, is seen: from the photo's middle, in shares of its long side. */
export function seenOnSheet(sheet: Sheet, u: number, v: number): Point {
  const { across, convergence, firstAngle, lastAngle, first, last } = sheet;
  const pageX = (u - 0.5) * sheet.aspect;
  const pageY = v - 0.5;
  const a = pageX * across.x + pageY * across.y;
  const t = pageY * across.x - pageX * across.y;
  const s = ((angleOf(a, t, convergence) - firstAngle) / (lastAngle - firstAngle)) * STEPS;
  const far = Math.hypot(convergence * a, 1 + convergence * t);
  const at = Math.min(STEPS - 1, Math.max(0, Math.floor(s)));
  const f = s - at; // beyond the ends the last piece goes on straight
  const fade = 0.5 + t / (2 * sheet.reachAlong);
  // between two rulings, and between their two ends
  const [p, q, g, h] = [(1 - f) * (1 - fade), f * (1 - fade), (1 - f) * fade, f * fade];
  const i = 3 * at;
  const aside =
    (far * (first[i]! * p + first[i + 3]! * q + last[i]! * g + last[i + 3]! * h)) / convergence +
    sheet.firstShift.aside * (1 - fade) +
    sheet.lastShift.aside * fade;
  const along = (far * (first[i + 1]! * p + first[i + 4]! * q + last[i + 1]! * g + last[i + 4]! * h) - 1) / convergence;
  const up =
    (far * (first[i + 2]! * p + first[i + 5]! * q + last[i + 2]! * g + last[i + 5]! * h)) / convergence +
    sheet.firstShift.up * (1 - fade) +
    sheet.lastShift.up * fade;
  const x = aside * across.x - along * across.y;
  const y = aside * across.y + along * across.x;
  const r = sheet.rotation;
  const [tx, ty, tz] = sheet.position;
  const depth = r[6]! * x + r[7]! * y + r[8]! * up + tz;
  const px = (r[0]! * x + r[1]! * y + r[2]! * up + tx) / depth;
  const py = (r[3]! * x + r[4]! * y + r[5]! * up + ty) / depth;
  const scale = sheet.focal * (1 + sheet.radial * (px * px + py * py));
  return { x: px * scale, y: py * scale };
}

/** Rotation matrix, row-major, of an axis times an angle (Rodrigues). */
export function rotationMatrix(rx: number, ry: number, rz: number): number[] {
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
