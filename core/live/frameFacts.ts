import type { Point } from '../geometry/point';
import { placeOnQuad, type Quad } from '../geometry/quad';
import { findGlare } from '../quality/glare';
import type { PixelImage } from '../raster/pixelImage';

/** What a frame tells besides its outline. All numbers from one cheap pass. */
export interface FrameFacts {
  /** Brightness that 9 of 10 pixels stay under, 0 to 255: how light the lightest things are. */
  readonly brightness: number;
  /** Mean strength of fine detail (Laplacian) over that of the coarser detail: falls when the picture is blurred. */
  readonly sharpness: number;
  /** Where a reflection burns the paper out, in frame pixels, or null. */
  readonly glareAt: Point | null;
  /** Ink in 32 × 32 cells of the page (of the frame where there is none), less its mean, unit norm: tells one page from the next. */
  readonly fingerprint: Float32Array;
}

const FINGERPRINT_SIDE = 32;
const LOOKS = 3;
const RIM = 0.06;
/** A cell darker than this (a black heading, a bit of desk) counts no more than this. */
const MOST_INK = 0.25;
/**
 * Reads a frame.
 * Limits: sharpness compares frames of one scene; between scenes it depends on what is in them.
 * @param frame - RGB or RGBA
 * @param page - the outline in it, or null
 */
export function readFrameFacts(frame: PixelImage, page: Quad | null): FrameFacts {
  const { width, height, channels, data } = frame;
  const light = (x: number, y: number): number => data[(y * width + x) * channels + (channels === 1 ? 0 : 1)]!;
  const histogram = new Uint32Array(256);
  for (let y = 0; y < height; y += 4) for (let x = 0; x < width; x += 4) histogram[light(x, y)]!++;
  const samples = Math.ceil(height / 4) * Math.ceil(width / 4);
  let brightness = 255;
  for (let above = 0; brightness > 0 && above + histogram[brightness]! < samples / 10; brightness--)
    above += histogram[brightness]!;
  const within = page === null ? null : (u: number, v: number) => placeOnQuad(page, u, v);
  return {
    brightness,
    sharpness: frameSharpness(frame, page),
    glareAt: page === null ? null : findGlare(frame, page),
    fingerprint: fingerprintOf(light, within ?? ((u, v) => ({ x: u * width, y: v * height })), width, height),
  };
}

/** How alike two fingerprints are (of unit norm, same length): their correlation, -1 to 1. */
export function likeness(a: Float32Array, b: Float32Array): number {
  let sum = 0;
  for (let i = 0; i < a.length; i++) sum += a[i]! * b[i]!;
  return sum;
}

/** The sharpness alone; without a page the frame's middle speaks. */
export function frameSharpness({ width, height, channels, data }: PixelImage, page: Quad | null): number {
  const light = (x: number, y: number): number => data[(y * width + x) * channels + (channels === 1 ? 0 : 1)]!;
  return detailRatio(light, page === null ? [0.2, 0.2, 0.8, 0.8] : boundsShare(page, width, height), width, height);
}

function boundsShare(page: Quad, width: number, height: number): [number, number, number, number] {
  const xs = page.map((p) => p.x / width);
  const ys = page.map((p) => p.y / height);
  return [
    Math.max(0, Math.min(...xs)),
    Math.max(0, Math.min(...ys)),
    Math.min(1, Math.max(...xs)),
    Math.min(1, Math.max(...ys)),
  ];
}

/** Second differences below this are a frame's noise. */
const ABOVE_NOISE = 16;

/** Strength of the 1-px second difference over that of the 3-px one: content raises both alike, blur takes the first away. */
function detailRatio(
  light: (x: number, y: number) => number,
  [left, top, right, bottom]: readonly number[],
  width: number,
  height: number,
): number {
  let fine = 0;
  let coarse = 0;
  for (let y = Math.max(3, Math.floor(top! * height)); y < Math.min(height - 3, bottom! * height); y += 2) {
    for (let x = Math.max(3, Math.floor(left! * width)); x < Math.min(width - 3, right! * width); x++) {
      const c = 2 * light(x, y);
      fine += Math.max(0, Math.abs(c - light(x - 1, y) - light(x + 1, y)) - ABOVE_NOISE);
      coarse += Math.max(0, Math.abs(c - light(x - 3, y) - light(x + 3, y)) - ABOVE_NOISE);
    }
  }
  return coarse === 0 ? 0 : fine / coarse;
}

/**
 * How much ink lies in each cell of the page, whatever the light: what a cell's mean lacks to the brightest paper nearby.
 */
function fingerprintOf(
  light: (x: number, y: number) => number,
  place: (u: number, v: number) => Point,
  width: number,
  height: number,
): Float32Array {
  const n = FINGERPRINT_SIDE;
  const mean = new Float32Array(n * n);
  const brightest = new Float32Array(n * n);
  for (let j = 0; j < n; j++) {
    for (let i = 0; i < n; i++) {
      let sum = 0;
      let most = 1;
      for (let k = 0; k < LOOKS * LOOKS; k++) {
        // a little inside the page, so that the desk at its rim does not count
        const u = RIM + ((1 - 2 * RIM) * (i + ((k % LOOKS) + 0.5) / LOOKS)) / n;
        const v = RIM + ((1 - 2 * RIM) * (j + (Math.floor(k / LOOKS) + 0.5) / LOOKS)) / n;
        const p = place(u, v);
        const level = light(
          Math.min(width - 1, Math.max(0, Math.floor(p.x))),
          Math.min(height - 1, Math.max(0, Math.floor(p.y))),
        );
        sum += level;
        most = Math.max(most, level);
      }
      mean[j * n + i] = sum / (LOOKS * LOOKS);
      brightest[j * n + i] = most;
    }
  }
  const paper = overNeighbours(brightest, n, 2, Math.max, 0);
  const ink = mean.map((level, i) => Math.min(MOST_INK, 1 - level / paper[i]!));
  // an outline that is off by a pixel must not make another page of it
  const soft = overNeighbours(ink, n, 1, (a, b) => a + b, 0);
  const middle = soft.reduce((sum, v) => sum + v, 0) / soft.length;
  const off = soft.map((v) => v - middle);
  const norm = Math.sqrt(off.reduce((sum, v) => sum + v * v, 0)) || 1;
  return off.map((v) => v / norm);
}

/** Joins each cell with its neighbours up to `reach` away. */
function overNeighbours(
  cells: Float32Array,
  n: number,
  reach: number,
  join: (a: number, b: number) => number,
  start: number,
): Float32Array {
  return cells.map((_, i) => {
    let joined = start;
    for (let y = Math.max(0, Math.floor(i / n) - reach); y <= Math.min(n - 1, Math.floor(i / n) + reach); y++) {
      for (let x = Math.max(0, (i % n) - reach); x <= Math.min(n - 1, (i % n) + reach); x++)
        joined = join(joined, cells[y * n + x]!);
    }
    return joined;
  });
}
