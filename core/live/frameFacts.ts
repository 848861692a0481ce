import type { Point } from '../geometry/point';
import type { Quad } from '../geometry/quad';
import { findGlare, placeOnQuad } from '../quality/glare';
import type { PixelImage } from '../raster/pixelImage';

/** What a frame tells besides its outline. All numbers from one cheap pass. */
export interface FrameFacts {
  /** Brightness that 9 of 10 pixels stay under, 0 to 255: how light the lightest things are. */
  readonly brightness: number;
  /** Mean strength of fine detail (Laplacian) over that of the coarser detail: falls when the picture is blurred. */
  readonly sharpness: number;
  /** Where a reflection burns the paper out, in frame pixels, or null. */
  readonly glareAt: Point | null;
  /** 16 × 16 lightness of the page (of the frame where there is none), less its mean, unit norm: tells one page from the next. */
  readonly fingerprint: Float32Array;
}

const FINGERPRINT_SIDE = 16;
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
  for (let above = 0; brightness > 0 && above + histogram[brightness]! < samples / 10; brightness--) above += histogram[brightness]!;
  const within = page === null ? null : (u: number, v: number) => placeOnQuad(page, u, v);
  return {
    brightness,
    sharpness: detailRatio(light, page === null ? [0.2, 0.2, 0.8, 0.8] : boundsShare(page, width, height), width, height),
    glareAt: page === null ? null : findGlare(frame, page),
    fingerprint: fingerprintOf(light, within ?? ((u, v) => ({ x: u * width, y: v * height })), width, height),
  };
}

/** How alike two fingerprints are, -1 to 1. */
export function likeness(a: Float32Array, b: Float32Array): number {
  let sum = 0;
  for (let i = 0; i < a.length; i++) sum += a[i]! * b[i]!;
  return sum;
}

function boundsShare(page: Quad, width: number, height: number): [number, number, number, number] {
  const xs = page.map((p) => p.x / width);
  const ys = page.map((p) => p.y / height);
  return [Math.max(0, Math.min(...xs)), Math.max(0, Math.min(...ys)), Math.min(1, Math.max(...xs)), Math.min(1, Math.max(...ys))];
}

/** Energy of the 1-px second difference over that of the 3-px one, which noise and content raise alike but blur does not. */
function detailRatio(light: (x: number, y: number) => number, [left, top, right, bottom]: readonly number[], width: number, height: number): number {
  let fine = 0;
  let coarse = 0;
  for (let y = Math.max(3, Math.floor(top! * height)); y < Math.min(height - 3, bottom! * height); y += 2) {
    for (let x = Math.max(3, Math.floor(left! * width)); x < Math.min(width - 3, right! * width); x++) {
      const c = 2 * light(x, y);
      fine += Math.abs(c - light(x - 1, y) - light(x + 1, y));
      coarse += Math.abs(c - light(x - 3, y) - light(x + 3, y));
    }
  }
  return coarse === 0 ? 0 : fine / coarse;
}

function fingerprintOf(light: (x: number, y: number) => number, place: (u: number, v: number) => Point, width: number, height: number): Float32Array {
  const n = FINGERPRINT_SIDE;
  const cells = new Float32Array(n * n);
  const LOOKS = 4;
  for (let j = 0; j < n; j++) {
    for (let i = 0; i < n; i++) {
      let sum = 0;
      for (let k = 0; k < LOOKS * LOOKS; k++) {
        // a little inside the page, so that the desk at its rim does not count
        const u = 0.03 + (0.94 * (i + ((k % LOOKS) + 0.5) / LOOKS)) / n;
        const v = 0.03 + (0.94 * (j + (Math.floor(k / LOOKS) + 0.5) / LOOKS)) / n;
        const p = place(u, v);
        const x = Math.min(width - 1, Math.max(0, Math.floor(p.x)));
        const y = Math.min(height - 1, Math.max(0, Math.floor(p.y)));
        sum += light(x, y);
      }
      cells[j * n + i] = sum;
    }
  }
  return normalised(withoutShading(cells, n));
}

/** Takes a plane of light off, so that a shadow that creeps over the page does not make it another page. */
function withoutShading(cells: Float32Array, n: number): Float32Array {
  const middle = (n - 1) / 2;
  let mean = 0;
  let slopeX = 0;
  let slopeY = 0;
  let spread = 0;
  cells.forEach((v, i) => {
    mean += v / cells.length;
    slopeX += v * ((i % n) - middle);
    slopeY += v * (Math.floor(i / n) - middle);
    spread += ((i % n) - middle) ** 2;
  });
  return cells.map((v, i) => v - mean - (slopeX / spread) * ((i % n) - middle) - (slopeY / spread) * (Math.floor(i / n) - middle));
}

function normalised(cells: Float32Array): Float32Array {
  const norm = Math.sqrt(cells.reduce((sum, v) => sum + v * v, 0)) || 1;
  return cells.map((v) => v / norm);
}
