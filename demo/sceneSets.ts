import { createScene, DESKS, LIGHTS, SHAPES, type Scene } from './camera/scene';

export interface NamedScene {
  readonly name: string;
  readonly scene: Scene;
}

const DEGREE = Math.PI / 180;
const EIGHT_MEGAPIXELS = { widthPx: 2448, heightPx: 3264, radial: 0, blurPx: 0.8, motionPx: 0 } as const;

/** The photos that Mira took of her own work; also the practice photos. */
export const demoScenes = (): NamedScene[] => [
  {
    name: 'tides-1-calculation',
    scene: createScene(401, {
      page: { kind: 'calculation', size: 'a4', seed: 6 },
      desk: 'wood',
      light: 'phoneShadow',
      shape: { kind: 'flat' },
      headingRad: 4 * DEGREE,
      thumb: false,
      underSheet: false,
      offCentre: { x: 0, y: 0 },
      camera: { ...EIGHT_MEGAPIXELS, tiltRad: 14 * DEGREE, fill: 0.84 },
      exifOrientation: 1,
    }),
  },
  {
    name: 'tides-2-calculation',
    scene: createScene(402, {
      page: { kind: 'calculation', size: 'a4', seed: 12 },
      desk: 'wood',
      light: 'warmLamp',
      shape: { kind: 'flat' },
      headingRad: -6 * DEGREE,
      thumb: true,
      underSheet: false,
      offCentre: { x: 0, y: 0 },
      camera: { ...EIGHT_MEGAPIXELS, tiltRad: 20 * DEGREE, fill: 0.82 },
      exifOrientation: 6,
    }),
  },
  {
    name: 'tides-3-curve',
    scene: createScene(403, {
      page: { kind: 'curve', size: 'a4', seed: 43 },
      desk: 'clutter',
      light: 'gradient',
      shape: { kind: 'flat' },
      headingRad: 93 * DEGREE,
      thumb: false,
      offCentre: { x: 0, y: 0 },
      camera: { ...EIGHT_MEGAPIXELS, tiltRad: 8 * DEGREE, fill: 0.8 },
      exifOrientation: 1,
    }),
  },
  {
    name: 'botany-1-log-sheet',
    scene: createScene(404, {
      page: { kind: 'log', size: 'a4', seed: 44 },
      desk: 'slate',
      light: 'softShadows',
      shape: { kind: 'crease', amount: 0.6 },
      headingRad: 2 * DEGREE,
      thumb: false,
      underSheet: false,
      offCentre: { x: 0, y: 0 },
      camera: { ...EIGHT_MEGAPIXELS, tiltRad: 18 * DEGREE, fill: 0.86 },
      exifOrientation: 1,
    }),
  },
  {
    name: 'botany-2-plate',
    scene: createScene(405, {
      page: { kind: 'botany', size: 'a4', seed: 45 },
      desk: 'cloth',
      light: 'even',
      shape: { kind: 'flat' },
      headingRad: -3 * DEGREE,
      thumb: false,
      underSheet: false,
      offCentre: { x: 0, y: 0 },
      camera: { ...EIGHT_MEGAPIXELS, tiltRad: 10 * DEGREE, fill: 0.84 },
      exifOrientation: 8,
    }),
  },
  {
    name: 'ropework-1-plate',
    scene: createScene(406, {
      page: { kind: 'knot', size: 'a4', seed: 2 },
      desk: 'pale',
      light: 'gradient',
      shape: { kind: 'flat' },
      headingRad: 5 * DEGREE,
      thumb: false,
      underSheet: false,
      offCentre: { x: 0, y: 0 },
      camera: { ...EIGHT_MEGAPIXELS, tiltRad: 24 * DEGREE, fill: 0.84 },
      exifOrientation: 1,
    }),
  },
];

const TABLE_PAGES = [
  { kind: 'calculation', seed: 6 },
  { kind: 'curve', seed: 43 },
  { kind: 'botany', seed: 45 },
  { kind: 'knot', seed: 2 },
  { kind: 'log', seed: 44 },
] as const;

/** The practice table: one desk and lamp, one page after another on it, as a hand-held phone sees it. The first is the bare desk. */
export const tableScenes = (): NamedScene[] =>
  TABLE_PAGES.map(({ kind, seed }, i) => ({
    name: `${i + 1}-${kind}`,
    scene: createScene(410, {
      page: { kind, size: 'a4', seed },
      desk: 'wood',
      light: 'gradient',
      shape: { kind: 'flat' },
      headingRad: [2, -4, 3, -2, 5][i]! * DEGREE,
      thumb: false,
      underSheet: false,
      offCentre: { x: [0, 0.02, -0.01, 0.01, 0][i]!, y: [0, -0.01, 0.02, 0, 0.01][i]! },
      camera: {
        widthPx: 1440,
        heightPx: 1920,
        radial: 0,
        blurPx: 0.7,
        motionPx: 0,
        noise: 0.006,
        tiltRad: (6 + 2 * i) * DEGREE,
        azimuthRad: 1.2,
        fill: 0.84,
        focalShare: 0.74,
      },
      exifOrientation: 1,
      jpegQuality: 90,
    }),
  }));

/**
 * Scenes for scoring and training: desks, lights and shapes are dealt out evenly, everything else is drawn by seed.
 * @param sizeShare - 1 for full-size photos, less for quick ones; blur shrinks with it
 */
export function scoredScenes(firstSeed: number, count: number, sizeShare: number): NamedScene[] {
  return Array.from({ length: count }, (_, i) => {
    const seed = firstSeed + i;
    const { camera } = createScene(seed);
    const smaller = {
      widthPx: Math.round(camera.widthPx * sizeShare),
      heightPx: Math.round(camera.heightPx * sizeShare),
      blurPx: Math.max(0.45, camera.blurPx * sizeShare),
      motionPx: camera.motionPx * sizeShare,
    };
    const shape = i % 2 === 0 ? 'flat' : SHAPES[1 + ((i >> 1) % 3)]!;
    return {
      name: String(seed),
      scene: createScene(seed, {
        desk: DESKS[i % DESKS.length]!,
        light: LIGHTS[i % LIGHTS.length]!,
        shape: { kind: shape },
        camera: smaller,
      }),
    };
  });
}
