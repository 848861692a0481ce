import type { PageKind, SheetSize } from '../artist/drawPage';
import { PAGE_KINDS } from '../artist/drawPage';
import { createRandom, type Random } from '../random';

export const DESKS = ['wood', 'pale', 'cloth', 'slate', 'clutter'] as const;
export const LIGHTS = ['even', 'gradient', 'phoneShadow', 'softShadows', 'warmLamp', 'dim', 'glare'] as const;
export const SHAPES = ['flat', 'bowed', 'curl', 'crease'] as const;
export type Desk = (typeof DESKS)[number];
export type Light = (typeof LIGHTS)[number];
export type ShapeKind = (typeof SHAPES)[number];

/** Everything that decides a photo. The same scene always gives the same pixels. */
export interface Scene {
  readonly seed: number;
  readonly page: { readonly kind: PageKind; readonly size: SheetSize; readonly seed: number };
  /** How the sheet lies; amount is 0 (flat) to 1 (as bowed as a sheet gets on a desk). */
  readonly shape: { readonly kind: ShapeKind; readonly amount: number };
  /** Turn of the sheet on the desk, clockwise seen from above. */
  readonly headingRad: number;
  readonly desk: Desk;
  readonly light: Light;
  readonly underSheet: boolean;
  readonly thumb: boolean;
  /** How far the camera looks past the page's middle, as a share of the page's size; about 0.2 puts a corner or a side out of frame. */
  readonly offCentre: { readonly x: number; readonly y: number };
  readonly camera: {
    readonly widthPx: number;
    readonly heightPx: number;
    /** Focal length over the picture's long side; 0.72 is a phone's main camera. */
    readonly focalShare: number;
    readonly tiltRad: number;
    readonly azimuthRad: number;
    /** Share of the picture's tighter dimension that the page takes up. */
    readonly fill: number;
    /** First radial distortion coefficient in normalised coordinates. */
    readonly radial: number;
    readonly blurPx: number;
    readonly motionPx: number;
    readonly motionRad: number;
    /** Standard deviation of noise at mid grey, linear light, share of full scale. */
    readonly noise: number;
  };
  readonly exifOrientation: 1 | 3 | 6 | 8;
  readonly jpegQuality: number;
  /** Frames of one scene differ in their noise by this. */
  readonly shot: number;
}

export type ScenePatch = {
  readonly [K in keyof Scene]?: K extends 'camera' | 'page' | 'shape' | 'offCentre' ? Partial<Scene[K]> : Scene[K];
};

const DEGREE = Math.PI / 180;

/** Draws a random scene; a patch fixes what a scored stratum or the demo needs fixed. */
export function createScene(seed: number, patch: ScenePatch = {}): Scene {
  const random = createRandom(seed * 7919 + 17);
  const light = patch.light ?? random.pick(LIGHTS);
  const cornerOut = random.chance(0.06);
  const scene: Scene = {
    seed,
    page: {
      kind: random.pick(PAGE_KINDS),
      size: random.pick(['a4', 'a4', 'a4', 'letter', 'a5']),
      seed: random.whole(1, 1e6),
      ...patch.page,
    },
    shape: {
      kind: random.pick(['flat', 'flat', 'flat', 'bowed', 'curl', 'crease']),
      amount: random.between(0.25, 1),
      ...patch.shape,
    },
    headingRad: patch.headingRad ?? pickHeading(random),
    desk: patch.desk ?? random.pick(DESKS),
    light,
    underSheet: patch.underSheet ?? random.chance(0.12),
    thumb: patch.thumb ?? random.chance(0.12),
    offCentre: {
      x: cornerOut ? random.pick([-0.2, 0.2]) : random.between(-0.05, 0.05),
      y: cornerOut ? random.pick([-0.17, 0.17]) : random.between(-0.05, 0.05),
      ...patch.offCentre,
    },
    camera: {
      ...random.pick([
        { widthPx: 2448, heightPx: 3264 },
        { widthPx: 3000, heightPx: 4000 },
        { widthPx: 3264, heightPx: 2448 },
      ]),
      focalShare: random.between(0.66, 0.82),
      tiltRad: random.between(0, 1) ** 1.4 * 40 * DEGREE,
      azimuthRad: random.between(0, 2 * Math.PI),
      fill: random.between(0.62, 0.92),
      radial: random.between(-0.03, 0.03),
      blurPx: random.between(0.7, 1.5),
      motionPx: random.chance(0.15) ? random.between(2, 6) : 0,
      motionRad: random.between(0, Math.PI),
      noise: light === 'dim' ? random.between(0.03, 0.06) : random.between(0.004, 0.012),
      ...patch.camera,
    },
    exifOrientation: patch.exifOrientation ?? random.pick([1, 1, 6, 8, 3]),
    jpegQuality: patch.jpegQuality ?? random.whole(82, 92),
    shot: patch.shot ?? 0,
  };
  return scene;
}

function pickHeading(random: Random): number {
  const quarter = random.chance(0.75) ? 0 : random.whole(1, 3);
  return quarter * 90 * DEGREE + random.gauss() * 7 * DEGREE;
}
