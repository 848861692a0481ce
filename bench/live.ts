import { pageJaccard } from '../core/imaging/geometry/jaccard';
import { scaleQuad, type Quad } from '../core/imaging/geometry/quad';
import { findLiveOutline } from '../core/imaging/live/findLiveOutline';
import { LIVE_LONG_SIDE_PX } from '../core/imaging/live/liveSize';
import { SHOW_FROM } from '../core/imaging/live/steadyOutline';
import type { PixelImage } from '../core/imaging/raster/pixelImage';
import { fitLongSide } from '../core/imaging/raster/resizeByArea';
import { classicOutline, loadOpenCv, toRgba } from './classicChain';
import { loadScoredPhotos } from './scoredPhotos';
import { mean, percent, quantile } from './statistics';

const RIGHT = 0.9;
/** Passes before the one that counts: the engine compiles what runs often, and a camera runs for minutes. Both are given them. */
const WARM_UP_PASSES = 3;

interface Scored {
  readonly jaccard: number;
  readonly ms: number;
}

/** Runs one finder over all frames without a pause, as a camera's stream would. */
function runOver(frames: readonly ScoredFrame[], find: (frame: PixelImage) => Quad | null): Scored[] {
  for (let pass = 0; pass < WARM_UP_PASSES; pass++) for (const { frame } of frames) find(frame);
  return frames.map(({ frame, score }) => {
    const started = performance.now();
    const quad = find(frame);
    return { ms: performance.now() - started, jaccard: score(quad) };
  });
}

interface ScoredFrame {
  readonly frame: PixelImage;
  readonly score: (quad: Quad | null) => number;
}

/** Scores finding the page in frames, and its time, beside the classic chain in the same process. */
export async function benchLive(photoFolder: string): Promise<void> {
  const { cv } = await loadOpenCv();
  const frames: ScoredFrame[] = [];
  for await (const { image, truth, aspect } of loadScoredPhotos(photoFolder)) {
    const frame = toRgba(fitLongSide(image, LIVE_LONG_SIDE_PX));
    frames.push({
      frame,
      score: (quad) =>
        quad === null ? 0 : pageJaccard(scaleQuad(quad, image.width / frame.width), truth.corners, aspect),
    });
  }
  const confidences: number[] = [];
  const ours = runOver(frames, (frame) => {
    const found = findLiveOutline(frame);
    confidences.push(found?.confidence ?? 0);
    return found?.quad ?? null;
  });
  const classic = runOver(frames, (frame) => classicOutline(cv, frame));
  const row = (label: string, all: readonly Scored[]): Record<string, string | number> => {
    const times = all.map(({ ms }) => ms);
    return {
      '': label,
      frames: all.length,
      'mean Jaccard': mean(all.map((s) => s.jaccard)).toFixed(3),
      [`≥ ${RIGHT}`]: percent(mean(all.map((s) => (s.jaccard >= RIGHT ? 1 : 0)))),
      'ms, median': quantile(times, 0.5).toFixed(1),
      'ms, p95': quantile(times, 0.95).toFixed(1),
    };
  };
  console.log('\nThe page in a camera frame of 640 px');
  console.table([row('Fotoplan', ours), row('classic chain in OpenCV.js', classic)]);
  const shown = ours.filter((_, i) => confidences[WARM_UP_PASSES * frames.length + i]! >= SHOW_FROM);
  console.log(
    `Shown ${percent(shown.length / ours.length)} of the time; of what is shown ${percent(mean(shown.map(({ jaccard }) => (jaccard >= RIGHT ? 1 : 0))))} is right.`,
  );
}
