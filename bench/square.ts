import { mkdirSync, rmSync } from 'node:fs';
import path from 'node:path';
import sharp from 'sharp';
import { detectOutline, type DetectedOutline } from '../core/detect/detectOutline';
import { recoverProportions } from '../core/geometry/aspectRatio';
import { pageJaccard } from '../core/geometry/jaccard';
import type { Point } from '../core/geometry/point';
import { DESKS, SHAPES, type Scene } from '../demo/camera/scene';
import { loadScoredPhotos, type ScoredPhoto } from './scoredPhotos';
import { mean, percent, quantile } from './statistics';

const WORST_SHOWN = 10;
const RIGHT = 0.95;
const UNUSABLE = 0.9;
/** The confidence below which the app asks for a look. */
const SURE = 0.7;

interface Score {
  readonly name: string;
  readonly scene: Scene;
  readonly found: DetectedOutline | null;
  readonly jaccard: number;
  readonly aspectError: number;
  readonly ms: number;
}

/** Scores outline detection on a folder of simulated photos, prints the table, and draws the worst cases. */
export async function benchSquare(photoFolder: string, outFolder: string): Promise<void> {
  const scores: Score[] = [];
  for await (const photo of loadScoredPhotos(photoFolder)) scores.push(score(photo));
  print(scores);
  const worst = [...scores].sort((a, b) => a.jaccard - b.jaccard).slice(0, WORST_SHOWN);
  rmSync(outFolder, { recursive: true, force: true });
  mkdirSync(outFolder, { recursive: true });
  const wanted = new Map(worst.map((s, rank) => [s.name, { ...s, rank }]));
  for await (const photo of loadScoredPhotos(photoFolder)) {
    const bad = wanted.get(photo.name);
    if (bad !== undefined) await draw(photo, bad.found, path.join(outFolder, `${String(bad.rank + 1).padStart(2, '0')}-${photo.name}.jpg`));
  }
  console.log(`\nThe worst ${worst.length} are drawn in ${outFolder} (truth green, found magenta).`);
}

function score({ name, image, truth, aspect }: ScoredPhoto): Score {
  const started = performance.now();
  const found = detectOutline(image);
  const ms = performance.now() - started;
  const jaccard = found === null ? 0 : pageJaccard(found.quad, truth.corners, aspect);
  const aspectError = found === null || jaccard < UNUSABLE ? NaN : Math.abs(recoverProportions(found.quad, image.width, image.height).aspect / aspect - 1);
  return { name, scene: truth.scene, found, jaccard, aspectError, ms };
}

function print(scores: readonly Score[]): void {
  const row = (label: string, part: readonly Score[]): Record<string, string | number> => {
    const aspects = part.map((s) => s.aspectError).filter((e) => !Number.isNaN(e));
    return {
      '': label,
      photos: part.length,
      'mean Jaccard': mean(part.map((s) => s.jaccard)).toFixed(4),
      '≥ 0.95': percent(mean(part.map((s) => (s.jaccard >= RIGHT ? 1 : 0)))),
      'misses said sure': percent(mean(part.map((s) => (s.jaccard < UNUSABLE && (s.found?.confidence ?? 0) >= SURE ? 1 : 0)))),
      'aspect error, median': percent(quantile(aspects, 0.5)),
      'ms, median': quantile(part.map((s) => s.ms), 0.5).toFixed(0),
      'ms, p95': quantile(part.map((s) => s.ms), 0.95).toFixed(0),
    };
  };
  const groups: [string, (s: Score) => boolean][] = [
    ['all', () => true],
    ...SHAPES.map((shape): [string, (s: Score) => boolean] => [`sheet ${shape}`, (s) => s.scene.shape.kind === shape]),
    ...DESKS.map((desk): [string, (s: Score) => boolean] => [`desk ${desk}`, (s) => s.scene.desk === desk]),
    ['thumb', (s) => s.scene.thumb],
    ['dim light', (s) => s.scene.light === 'dim'],
  ];
  console.table(groups.map(([label, test]) => row(label, scores.filter(test))));
}

async function draw({ image, truth }: ScoredPhoto, found: DetectedOutline | null, file: string): Promise<void> {
  const scale = 900 / Math.max(image.width, image.height);
  const width = Math.round(image.width * scale);
  const height = Math.round(image.height * scale);
  const polygon = (points: readonly Point[], colour: string): string =>
    `<polygon points="${points.map((p) => `${p.x * scale},${p.y * scale}`).join(' ')}" fill="none" stroke="${colour}" stroke-width="2"/>`;
  const overlay = `<svg width="${width}" height="${height}">${polygon(truth.boundary, '#00c040')}${found === null ? '' : polygon(found.boundary ?? found.quad, '#ff00c0')}</svg>`;
  await sharp(image.data, { raw: { width: image.width, height: image.height, channels: image.channels } })
    .resize(width, height)
    .composite([{ input: Buffer.from(overlay) }])
    .jpeg()
    .toFile(file);
}
