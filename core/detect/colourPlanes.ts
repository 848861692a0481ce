import { boxBlur } from '../raster/boxBlur';
import { halvePlane, type Plane } from '../raster/plane';
import type { PixelImage } from '../raster/pixelImage';

/** A picture as lightness and two opponent colours, all on the 0–255 scale (colours signed). */
export interface ColourPlanes {
  readonly width: number;
  readonly height: number;
  readonly l: Float32Array;
  readonly a: Float32Array;
  readonly b: Float32Array;
}

/** Splits RGB or RGBA (grey counts as colourless) into lightness (Rec. 601 weights), red–green and yellow–blue. */
export function toColourPlanes({ width, height, channels, data }: PixelImage): ColourPlanes {
  const size = width * height;
  const l = new Float32Array(size);
  const a = new Float32Array(size);
  const b = new Float32Array(size);
  for (let i = 0, at = 0; i < size; i++, at += channels) {
    const red = data[at]!;
    const green = channels === 1 ? red : data[at + 1]!;
    const blue = channels === 1 ? red : data[at + 2]!;
    l[i] = 0.299 * red + 0.587 * green + 0.114 * blue;
    a[i] = 0.7 * (red - green);
    b[i] = 0.7 * ((red + green) / 2 - blue);
  }
  return { width, height, l, a, b };
}

/**
 * toColourPlanes of the picture made smaller, in one pass: each pixel is the mean of the 2 × 2 at its place. Steps above 3
 * begin to alias.
 * @param longSidePx - of the result; at most half the picture's
 */
export function toSmallColourPlanes({ width, height, channels, data }: PixelImage, longSidePx: number): ColourPlanes {
  const step = Math.max(width, height) / longSidePx;
  const w = Math.floor(width / step);
  const h = Math.floor(height / step);
  const l = new Float32Array(w * h);
  const a = new Float32Array(w * h);
  const b = new Float32Array(w * h);
  const green = channels === 1 ? 0 : 1;
  const blue = channels === 1 ? 0 : 2;
  const below = width * channels;
  const columns = Int32Array.from({ length: w }, (_, x) => Math.round((x + 0.5) * step - 1) * channels);
  for (let y = 0, to = 0; y < h; y++) {
    const row = Math.round((y + 0.5) * step - 1) * below;
    const upper = data.subarray(row, row + below);
    const lower = data.subarray(row + below, row + 2 * below);
    for (let x = 0; x < w; x++, to++) {
      const at = columns[x]!;
      const right = at + channels;
      const r = upper[at]! + upper[right]! + lower[at]! + lower[right]!;
      const g = upper[at + green]! + upper[right + green]! + lower[at + green]! + lower[right + green]!;
      const c = upper[at + blue]! + upper[right + blue]! + lower[at + blue]! + lower[right + blue]!;
      l[to] = 0.07475 * r + 0.14675 * g + 0.0285 * c;
      a[to] = 0.175 * (r - g);
      b[to] = 0.175 * ((r + g) / 2 - c);
    }
  }
  return { width: w, height: h, l, a, b };
}

/** Lightness that a picture's lightest places are brought up to, and by how much at most. */
const LIGHT_ENOUGH = 170;
const MOST_GAIN = 6;

/** A dim picture made as light as a usual one, so that what looks for edges need not know how dim it was; others as they are. */
export function brightenPlanes(planes: ColourPlanes): ColourPlanes {
  const { l } = planes;
  const sample = new Float32Array(Math.floor(l.length / 61) + 1);
  for (let k = 0; k < sample.length; k++) sample[k] = l[Math.min(l.length - 1, k * 61)]!;
  const light = sample.sort()[Math.floor(0.97 * (sample.length - 1))]!;
  const gain = Math.min(MOST_GAIN, LIGHT_ENOUGH / Math.max(1, light));
  if (gain <= 1) return planes;
  const scaled = (plane: Float32Array): Float32Array => plane.map((v) => v * gain);
  return { ...planes, l: scaled(l), a: scaled(planes.a), b: scaled(planes.b) };
}

/** All planes at half the size, each pixel the mean of four. */
export function halvePlanes({ width, height, l, a, b }: ColourPlanes): ColourPlanes {
  const [halfL, halfA, halfB] = [l, a, b].map((data) => halvePlane({ width, height, data })) as [Plane, Plane, Plane];
  return { width: halfL.width, height: halfL.height, l: halfL.data, a: halfA.data, b: halfB.data };
}

/** Blurs all planes with `passes` box filters of radius `radius` (three passes come close to a Gaussian). */
export function blurPlanes(planes: ColourPlanes, radius: number, passes: number): ColourPlanes {
  const { width, height } = planes;
  const blur = (plane: Float32Array): Float32Array => boxBlur(plane, width, height, radius, passes);
  return { width, height, l: blur(planes.l), a: blur(planes.a), b: blur(planes.b) };
}
