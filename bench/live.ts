import { createRequire } from 'node:module';
import { pageJaccard } from '../core/geometry/jaccard';
import { orderRing, scaleQuad, type Quad } from '../core/geometry/quad';
import { findLiveOutline, LIVE_LONG_SIDE_PX } from '../core/live/findLiveOutline';
import { SHOW_FROM } from '../core/live/steadyOutline';
import { pixelImageFrom, type PixelImage } from '../core/raster/pixelImage';
import { fitLongSide } from '../core/raster/resizeByArea';
import { loadScoredPhotos } from './scoredPhotos';
import { mean, percent, quantile } from './statistics';

const RIGHT = 0.9;
/** Passes before the one that counts: the engine compiles what runs often, and a camera runs for minutes. Both are given them. */
const WARM_UP_PASSES = 3;

/** The parts of OpenCV.js that the classic chain needs. */
interface Mat {
  rows: number;
  data: Uint8Array;
  data32S: Int32Array;
  delete(): void;
}
interface OpenCv {
  onRuntimeInitialized?: () => void;
  Mat: new () => Mat;
  MatVector: new () => { size(): number; get(i: number): Mat; delete(): void };
  Size: new (w: number, h: number) => object;
  matFromImageData(image: { data: Uint8ClampedArray; width: number; height: number }): Mat;
  cvtColor(from: Mat, to: Mat, code: number): void;
  GaussianBlur(from: Mat, to: Mat, size: object, sigma: number): void;
  Canny(from: Mat, to: Mat, low: number, high: number): void;
  dilate(from: Mat, to: Mat, kernel: Mat): void;
  getStructuringElement(shape: number, size: object): Mat;
  findContours(from: Mat, to: object, hierarchy: Mat, mode: number, method: number): void;
  arcLength(contour: Mat, closed: boolean): number;
  approxPolyDP(contour: Mat, to: Mat, epsilon: number, closed: boolean): void;
  contourArea(contour: Mat): number;
  isContourConvex(contour: Mat): boolean;
  COLOR_RGBA2GRAY: number;
  MORPH_RECT: number;
  RETR_LIST: number;
  CHAIN_APPROX_SIMPLE: number;
}

/** Wrapped, because the module has a `then` of its own that a promise would call for ever. */
async function loadOpenCv(): Promise<{ readonly cv: OpenCv }> {
  const cv = createRequire(import.meta.url)('@techstark/opencv-js') as OpenCv;
  await new Promise<void>((resolve) => (cv.onRuntimeInitialized = resolve));
  return { cv };
}

/** The classic chain: blur, Canny, contours, the largest convex quadrilateral. */
function classicOutline(cv: OpenCv, frame: PixelImage): Quad | null {
  const source = cv.matFromImageData(frame);
  const grey = new cv.Mat();
  const edges = new cv.Mat();
  const contours = new cv.MatVector();
  const hierarchy = new cv.Mat();
  const corners = new cv.Mat();
  cv.cvtColor(source, grey, cv.COLOR_RGBA2GRAY);
  cv.GaussianBlur(grey, grey, new cv.Size(5, 5), 0);
  cv.Canny(grey, edges, 50, 150);
  const kernel = cv.getStructuringElement(cv.MORPH_RECT, new cv.Size(3, 3));
  cv.dilate(edges, edges, kernel);
  cv.findContours(edges, contours, hierarchy, cv.RETR_LIST, cv.CHAIN_APPROX_SIMPLE);
  let best: Quad | null = null;
  let largest = 0.06 * frame.width * frame.height;
  for (let i = 0; i < contours.size(); i++) {
    const contour = contours.get(i);
    cv.approxPolyDP(contour, corners, 0.02 * cv.arcLength(contour, true), true);
    const area = cv.contourArea(corners);
    if (corners.rows === 4 && area > largest && cv.isContourConvex(corners)) {
      const at = corners.data32S;
      best = orderRing([0, 1, 2, 3].map((k) => ({ x: at[2 * k]!, y: at[2 * k + 1]! })) as unknown as Quad);
      largest = area;
    }
    contour.delete();
  }
  for (const used of [source, grey, edges, contours, hierarchy, corners, kernel]) used.delete();
  return best;
}

function toRgba({ width, height, channels, data }: PixelImage): PixelImage {
  const rgba = new Uint8ClampedArray(width * height * 4).fill(255);
  for (let i = 0; i < width * height; i++) for (let c = 0; c < 3; c++) rgba[i * 4 + c] = data[i * channels + c]!;
  return pixelImageFrom(width, height, 4, rgba);
}

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
    frames.push({ frame, score: (quad) => (quad === null ? 0 : pageJaccard(scaleQuad(quad, image.width / frame.width), truth.corners, aspect)) });
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
    return { '': label, frames: all.length, 'mean Jaccard': mean(all.map((s) => s.jaccard)).toFixed(3), [`≥ ${RIGHT}`]: percent(mean(all.map((s) => (s.jaccard >= RIGHT ? 1 : 0)))), 'ms, median': quantile(times, 0.5).toFixed(1), 'ms, p95': quantile(times, 0.95).toFixed(1) };
  };
  console.log('\nThe page in a camera frame of 640 px');
  console.table([row('Fotoplan', ours), row('classic chain in OpenCV.js', classic)]);
  const shown = ours.filter((_, i) => confidences[WARM_UP_PASSES * frames.length + i]! >= SHOW_FROM);
  console.log(`Shown ${percent(shown.length / ours.length)} of the time; of what is shown ${percent(mean(shown.map(({ jaccard }) => (jaccard >= RIGHT ? 1 : 0))))} is right.`);
}
