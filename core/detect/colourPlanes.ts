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

/** Blurs all planes with `passes` box filters of radius `radius` (three passes come close to a Gaussian). */
export function blurPlanes(planes: ColourPlanes, radius: number, passes: number): ColourPlanes {
  const { width, height } = planes;
  const half = new Float32Array(width * height);
  const blur = (plane: Float32Array): Float32Array => {
    const out = new Float32Array(plane.length);
    for (let i = 0; i < passes; i++) {
      boxRows(i === 0 ? plane : out, half, width, height, radius);
      boxColumns(half, out, width, height, radius);
    }
    return out;
  };
  return { width, height, l: blur(planes.l), a: blur(planes.a), b: blur(planes.b) };
}

/** Running mean along rows; edges repeat. */
function boxRows(from: Float32Array, to: Float32Array, width: number, height: number, radius: number): void {
  const share = 1 / (2 * radius + 1);
  for (let y = 0; y < height; y++) {
    const start = y * width;
    const last = start + width - 1;
    let sum = from[start]! * (radius + 1);
    for (let k = 1; k <= radius; k++) sum += from[Math.min(last, start + k)]!;
    for (let at = start; at <= last; at++) {
      to[at] = sum * share;
      const enters = at + radius + 1;
      const leaves = at - radius;
      sum += from[enters > last ? last : enters]! - from[leaves < start ? start : leaves]!;
    }
  }
}

/** Running mean down columns, whole rows at a time so that memory is read in order; edges repeat. */
function boxColumns(from: Float32Array, to: Float32Array, width: number, height: number, radius: number): void {
  const share = 1 / (2 * radius + 1);
  const sums = new Float32Array(width);
  const row = (y: number): number => Math.min(height - 1, Math.max(0, y)) * width;
  for (let k = -radius; k <= radius; k++) {
    const at = row(k);
    for (let x = 0; x < width; x++) sums[x]! += from[at + x]!;
  }
  for (let y = 0; y < height; y++) {
    const out = y * width;
    const enters = row(y + radius + 1);
    const leaves = row(y - radius);
    for (let x = 0; x < width; x++) {
      to[out + x] = sums[x]! * share;
      sums[x]! += from[enters + x]! - from[leaves + x]!;
    }
  }
}
