import type { Scene } from './scene';
import type { Vector } from './vector';

/** A point of the sheet, found by its place on the flat page, in mm from the page's top-left corner. */
export type SheetSurface = (uMm: number, vMm: number) => Vector;

const STEPS = 256;

/**
 * Where every point of the lying sheet is. Sheets bend but do not stretch: a profile of slopes is integrated by arc
 * length, so distances along the paper stay what they were. A bow fades towards the foot of the page.
 */
export function createSheetSurface(scene: Scene, widthMm: number, heightMm: number): SheetSurface {
  const { kind, amount } = scene.shape;
  const alongHeight = kind === 'crease';
  const length = alongHeight ? heightMm : widthMm;
  const slope = slopeProfile(scene, length);
  const cos = Math.cos(scene.headingRad);
  const sin = Math.sin(scene.headingRad);
  const profiles = Array.from({ length: 9 }, (_, i) => {
    const strength = kind === 'bowed' ? 1 - 0.75 * (i / 8) : 1;
    return integrateProfile((s) => slope(s) * strength, length);
  });
  const liftMm = kind === 'flat' ? 0.2 : 0.2 + amount * 0.5;
  return (u, v) => {
    const s = alongHeight ? v : u;
    const row = kind === 'bowed' ? (v / heightMm) * 8 : 0;
    const low = profiles[Math.min(8, Math.max(0, Math.floor(row)))]!;
    const high = profiles[Math.min(8, Math.max(0, Math.floor(row) + 1))]!;
    const [alongLow, zLow] = readProfile(low, s / length);
    const [alongHigh, zHigh] = readProfile(high, s / length);
    const t = row - Math.floor(row);
    const along = alongLow + (alongHigh - alongLow) * t;
    const z = zLow + (zHigh - zLow) * t;
    const x = alongHeight ? u - widthMm / 2 : along;
    const y = alongHeight ? along : v - heightMm / 2;
    return [x * cos - y * sin, x * sin + y * cos, z + liftMm];
  };
}

/** Slope angle in rad at arc length s (mm) across the sheet. */
function slopeProfile(scene: Scene, length: number): (s: number) => number {
  const { kind, amount } = scene.shape;
  switch (kind) {
    case 'flat':
      return () => 0;
    case 'bowed':
      return (s) => 0.42 * amount * Math.cos((Math.PI * s) / length);
    case 'curl':
      return (s) => -0.75 * amount * Math.exp(-s / (length * 0.22));
    case 'crease': {
      const fold = length * (0.4 + 0.2 * ((scene.seed % 10) / 10));
      return (s) => -0.09 * amount * Math.tanh((s - fold) / 3);
    }
  }
}

interface Profile {
  readonly along: Float64Array;
  readonly z: Float64Array;
}

function integrateProfile(slope: (s: number) => number, length: number): Profile {
  const along = new Float64Array(STEPS + 1);
  const z = new Float64Array(STEPS + 1);
  const ds = length / STEPS;
  for (let i = 1; i <= STEPS; i++) {
    const angle = slope((i - 0.5) * ds);
    along[i] = along[i - 1]! + Math.cos(angle) * ds;
    z[i] = z[i - 1]! + Math.sin(angle) * ds;
  }
  const middle = along[STEPS]! / 2;
  const lowest = z.reduce((a, b) => Math.min(a, b), Infinity);
  return { along: along.map((a) => a - middle), z: z.map((h) => h - lowest) };
}

function readProfile(profile: Profile, t: number): [number, number] {
  const at = Math.min(STEPS - 1e-9, Math.max(0, t * STEPS));
  const i = Math.floor(at);
  const f = at - i;
  return [profile.along[i]! * (1 - f) + profile.along[i + 1]! * f, profile.z[i]! * (1 - f) + profile.z[i + 1]! * f];
}
