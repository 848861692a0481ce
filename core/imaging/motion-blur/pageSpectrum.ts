import { distance } from '../geometry/point';
import { placeOnQuad, type Quad } from '../geometry/quad';
import { transformSquare } from '../raster/fourier';
import type { PixelImage } from '../raster/pixelImage';
import { LIGHT_OF_LEVEL } from '../raster/transferCurve';
import { quantile } from '../raster/quantile';

/** Side of the windows transformed, px: twice the longest blur that is looked for. */
export const WINDOW_PX = 64;
/** Windows in the mean at most, two at a time in one transform. */
const MOST_WINDOWS = 64;
/** A page with fewer says nothing. */
const LEAST_WINDOWS = 12;
/** Each has at least this contrast: bare paper and its noise say nothing. */
const LEAST_CONTRAST = 0.04;
/** So many pixels apart it is looked at for that. */
const STEP_PX = 4;
/** From this frequency on, in cycles a pixel, there is only noise, which has the same power everywhere. */
const NOISE_FROM = 0.4;
/** The level that this share of a window stays under is its paper's. */
const PAPER_QUANTILE = 0.9;

/** Cycles a pixel at a place of the spectrum, along either axis. */
export const frequency = (k: number): number => (k < WINDOW_PX / 2 ? k : k - WINDOW_PX) / WINDOW_PX;

/** What a page is made of, by frequency. */
export interface PageSpectrum {
  /** Mean power [u, v] of windows of WINDOW_PX, u along x. */
  readonly power: Float64Array;
  /** The noise's part of it, the same everywhere. */
  readonly noise: number;
}

/**
 * The mean power spectrum of the windows with most ink on them, in linear light beside their paper (Welch 1967, with Hann
 * windows side by side).
 * @param picture - the page's pixels; its green is read
 * @param page - the paper's outline in it, px
 * @returns null where there is too little on the page
 */
export function readSpectrum(picture: PixelImage, page: Quad): PageSpectrum | null {
  const windows = windowsOn(picture, page);
  if (windows.length < LEAST_WINDOWS) return null;
  const power = new Float64Array(WINDOW_PX ** 2);
  for (let k = 0; k + 1 < Math.min(MOST_WINDOWS, windows.length); k += 2) {
    const real = readWindow(picture, windows[k]!);
    const imaginary = readWindow(picture, windows[k + 1]!);
    transformSquare(real, imaginary, WINDOW_PX);
    // of two real windows in one complex transform, |F(k)|² + |F(-k)|² is twice the sum of their powers
    for (let u = 0, at = 0; u < WINDOW_PX; u++) {
      const opposite = ((WINDOW_PX - u) % WINDOW_PX) * WINDOW_PX;
      for (let v = 0; v < WINDOW_PX; v++, at++) {
        const mirrored = opposite + ((WINDOW_PX - v) % WINDOW_PX);
        power[at]! += (real[at]! ** 2 + imaginary[at]! ** 2 + real[mirrored]! ** 2 + imaginary[mirrored]! ** 2) / 2;
      }
    }
  }
  const high = power.filter(
    (_, at) => Math.hypot(frequency(at % WINDOW_PX), frequency(Math.floor(at / WINDOW_PX))) > NOISE_FROM,
  );
  return { power, noise: Math.max(Number.MIN_VALUE, quantile(high, 0.5)) };
}

interface Window {
  readonly x: number;
  readonly y: number;
  readonly contrast: number;
}

const greenOf = (channels: number): number => (channels === 1 ? 0 : 1);

/** Windows side by side on the page that have something on them, most first. */
function windowsOn({ width, height, channels, data }: PixelImage, page: Quad): Window[] {
  const green = greenOf(channels);
  const [tl, tr, br, bl] = page;
  const across = Math.floor((distance(tl, tr) + distance(bl, br)) / 2 / WINDOW_PX);
  const down = Math.floor((distance(tl, bl) + distance(tr, br)) / 2 / WINDOW_PX);
  const windows: Window[] = [];
  for (let row = 0; row < down; row++) {
    for (let column = 0; column < across; column++) {
      const middle = placeOnQuad(page, (column + 0.5) / across, (row + 0.5) / down);
      const x = Math.floor(middle.x - WINDOW_PX / 2);
      const y = Math.floor(middle.y - WINDOW_PX / 2);
      if (x < 0 || y < 0 || x + WINDOW_PX > width || y + WINDOW_PX > height) continue;
      let [sum, squares] = [0, 0];
      for (let j = 0; j < WINDOW_PX; j += STEP_PX) {
        for (let i = 0; i < WINDOW_PX; i += STEP_PX) {
          const level = data[((y + j) * width + x + i) * channels + green]!;
          sum += level;
          squares += level * level;
        }
      }
      const count = (WINDOW_PX / STEP_PX) ** 2;
      const mean = sum / count;
      const contrast = Math.sqrt(Math.max(0, squares / count - mean * mean)) / Math.max(1, mean);
      if (contrast >= LEAST_CONTRAST) windows.push({ x, y, contrast });
    }
  }
  return windows.sort((p, q) => q.contrast - p.contrast);
}

/** Fades a window out towards its rim. */
const HANN = Float64Array.from(
  { length: WINDOW_PX },
  (_, i) => 0.5 - 0.5 * Math.cos((2 * Math.PI * i) / (WINDOW_PX - 1)),
);

/** A window's linear light as a share of its paper's, less its mean, faded out towards its rim. */
function readWindow({ width, channels, data }: PixelImage, { x, y }: Window): Float32Array<ArrayBuffer> {
  const green = greenOf(channels);
  const levels = new Uint8Array(WINDOW_PX ** 2);
  for (let j = 0, at = 0; j < WINDOW_PX; j++)
    for (let i = 0; i < WINDOW_PX; i++, at++) levels[at] = data[((y + j) * width + x + i) * channels + green]!;
  const toPaper = 255 / Math.max(1, quantile(levels, PAPER_QUANTILE));
  const values = new Float32Array(levels.length);
  let mean = 0;
  for (let at = 0; at < levels.length; at++)
    mean += values[at] = LIGHT_OF_LEVEL[Math.min(255, (levels[at]! * toPaper + 0.5) | 0)]!;
  mean /= levels.length;
  for (let j = 0, at = 0; j < WINDOW_PX; j++)
    for (let i = 0; i < WINDOW_PX; i++, at++) values[at] = (values[at]! - mean) * HANN[i]! * HANN[j]!;
  return values;
}
