import { mkdirSync, rmSync } from 'node:fs';
import path from 'node:path';
import sharp from 'sharp';
import { detectOutline, type DetectedOutline } from '../core/imaging/detect/detectOutline';
import { ringOf } from '../core/imaging/geometry/bentOutline';
import { pageJaccard } from '../core/imaging/geometry/jaccard';
import { scaleQuad, turnQuad, type Quad } from '../core/imaging/geometry/quad';
import type { Point } from '../core/imaging/geometry/point';
import { fitLongSide } from '../core/imaging/raster/resizeByArea';
import { CHECK_EDGES_BELOW, CHECK_TURN_BELOW } from '../core/work/recipe/recipe';
import { shapeOf } from '../core/work/render/renderPage';
import { recipeFromOutline } from '../core/work/intake/recipeFromOutline';
import { DESKS, SHAPES, type Scene } from '../demo/camera/scene';
import { classicOutline, loadOpenCv, toRgba, type OpenCv } from './classicChain';
import { quarterTurnsTo, residualMm } from './flatness';
import { regionJaccard } from './regionJaccard';
import { loadScoredPhotos, type ScoredPhoto } from './scoredPhotos';
import { mean, percent, quantile } from './statistics';

const WORST_SHOWN = 10;
const RIGHT = 0.95;
const UNUSABLE = 0.9;
/** The classic chain works on a picture this large, as it is usually run. */
const CLASSIC_LONG_SIDE_PX = 1000;

interface Score {
  readonly name: string;
  readonly scene: Scene;
  readonly found: DetectedOutline | null;
  readonly jaccard: number;
  readonly region: number;
  readonly aspectError: number;
  readonly residualMm: number;
  /** Null where the page was left as it lay, else whether it was turned rightly. */
  readonly turnedRightly: boolean | null;
  readonly ms: number;
  readonly classic: { readonly jaccard: number; readonly ms: number };
}

/** Scores outlines, flattening and reading direction on a folder of simulated photos, prints the table, and draws the worst cases. */
export async function benchSquare(photoFolder: string, outFolder: string): Promise<void> {
  const { cv } = await loadOpenCv();
  const scores: Score[] = [];
  for await (const photo of loadScoredPhotos(photoFolder)) scores.push(score(photo, cv));
  print(scores);
  const worst = [...scores].sort((a, b) => a.jaccard - b.jaccard).slice(0, WORST_SHOWN);
  rmSync(outFolder, { recursive: true, force: true });
  mkdirSync(outFolder, { recursive: true });
  const wanted = new Map(worst.map((s, rank) => [s.name, { ...s, rank }]));
  for await (const photo of loadScoredPhotos(photoFolder)) {
    const bad = wanted.get(photo.name);
    if (bad !== undefined)
      await draw(photo, bad.found, path.join(outFolder, `${String(bad.rank + 1).padStart(2, '0')}-${photo.name}.jpg`));
  }
  console.log(`\nThe worst ${worst.length} are drawn in ${outFolder} (truth green, found magenta).`);
}

function score({ name, image, truth, aspect }: ScoredPhoto, cv: OpenCv): Score {
  const started = performance.now();
  const detected = detectOutline(image);
  const ms = performance.now() - started;
  // what the app and the command line go on with, turned and all
  const recipe =
    detected === null
      ? null
      : recipeFromOutline(image, detected, { finish: 'asshot', kind: 'sheet', focalRatio: null });
  const found =
    detected === null || recipe === null
      ? null
      : { quad: recipe.outline.corners, bends: recipe.outline.bends, confidence: detected.confidence };
  const classic = runClassic(cv, image, (quad) => pageJaccard(quad, truth.corners, aspect));
  const lost = {
    name,
    scene: truth.scene,
    found,
    region: 0,
    aspectError: NaN,
    residualMm: NaN,
    turnedRightly: null,
    ms,
    classic,
  };
  if (found === null || recipe === null) return { ...lost, jaccard: 0 };
  const jaccard = pageJaccard(found.quad, truth.corners, aspect);
  const region = regionJaccard(ringOf(found.quad, found.bends, 24), truth.boundary, image.width, image.height);
  if (jaccard < UNUSABLE) return { ...lost, jaccard, region };
  const turns = quarterTurnsTo(found.quad, truth.corners);
  const shape = shapeOf(image, { ...recipe, quarterTurns: 0 });
  const upright = turns % 2 === 0 ? shape.size.width / shape.size.height : shape.size.height / shape.size.width;
  const { quarterTurns, uprightConfidence } = recipe;
  const acted = (uprightConfidence ?? 0) >= CHECK_TURN_BELOW;
  return {
    ...lost,
    jaccard,
    region,
    aspectError: Math.abs(upright / aspect - 1),
    residualMm: residualMm(truth, shape),
    turnedRightly: acted ? quarterTurnsTo(turnQuad(found.quad, quarterTurns), truth.corners) === 0 : null,
  };
}

function runClassic(cv: OpenCv, image: ScoredPhoto['image'], scoreOf: (quad: Quad) => number): Score['classic'] {
  const started = performance.now();
  const small = fitLongSide(image, CLASSIC_LONG_SIDE_PX);
  const quad = classicOutline(cv, toRgba(small));
  const ms = performance.now() - started;
  return { jaccard: quad === null ? 0 : scoreOf(scaleQuad(quad, image.width / small.width)), ms };
}

function print(scores: readonly Score[]): void {
  const row = (label: string, part: readonly Score[]): Record<string, string | number> => {
    const known = (values: readonly number[]): number[] => values.filter((e) => !Number.isNaN(e));
    const acted = part.filter((s) => s.turnedRightly !== null);
    return {
      '': label,
      photos: part.length,
      'mean Jaccard': mean(part.map((s) => s.jaccard)).toFixed(4),
      '≥ 0.95': percent(mean(part.map((s) => (s.jaccard >= RIGHT ? 1 : 0)))),
      'sure misses': percent(
        mean(part.map((s) => (s.jaccard < UNUSABLE && (s.found?.confidence ?? 0) >= CHECK_EDGES_BELOW ? 1 : 0))),
      ),
      unsure: percent(mean(part.map((s) => ((s.found?.confidence ?? 0) < CHECK_EDGES_BELOW ? 1 : 0)))),
      region: mean(part.map((s) => s.region)).toFixed(4),
      'aspect err': percent(quantile(known(part.map((s) => s.aspectError)), 0.5)),
      'mm off': mean(known(part.map((s) => s.residualMm))).toFixed(2),
      'turned alone': percent(acted.length / part.length),
      rightly: percent(mean(acted.map((s) => (s.turnedRightly === true ? 1 : 0)))),
      'ms, median': quantile(
        part.map((s) => s.ms),
        0.5,
      ).toFixed(0),
      'OpenCV.js': mean(part.map((s) => s.classic.jaccard)).toFixed(3),
      'its ms': quantile(
        part.map((s) => s.classic.ms),
        0.5,
      ).toFixed(0),
    };
  };
  const groups: [string, (s: Score) => boolean][] = [
    ['all', () => true],
    ...SHAPES.map((shape): [string, (s: Score) => boolean] => [`sheet ${shape}`, (s) => s.scene.shape.kind === shape]),
    ...DESKS.map((desk): [string, (s: Score) => boolean] => [`desk ${desk}`, (s) => s.scene.desk === desk]),
    ['thumb', (s) => s.scene.thumb],
    ['dim light', (s) => s.scene.light === 'dim'],
    ['other sheet', (s) => s.scene.underSheet || s.scene.desk === 'clutter'],
    ['tilt over 25°', (s) => s.scene.camera.tiltRad > (25 * Math.PI) / 180],
  ];
  console.table(groups.map(([label, test]) => row(label, scores.filter(test))));
}

async function draw({ image, truth }: ScoredPhoto, found: DetectedOutline | null, file: string): Promise<void> {
  const scale = 900 / Math.max(image.width, image.height);
  const width = Math.round(image.width * scale);
  const height = Math.round(image.height * scale);
  const polygon = (points: readonly Point[], colour: string): string =>
    `<polygon points="${points.map((p) => `${p.x * scale},${p.y * scale}`).join(' ')}" fill="none" stroke="${colour}" stroke-width="2"/>`;
  const overlay = `<svg width="${width}" height="${height}">${polygon(truth.boundary, '#00c040')}${found === null ? '' : polygon(ringOf(found.quad, found.bends, 16), '#ff00c0')}</svg>`;
  await sharp(image.data, { raw: { width: image.width, height: image.height, channels: image.channels } })
    .resize(width, height)
    .composite([{ input: Buffer.from(overlay) }])
    .jpeg()
    .toFile(file);
}
