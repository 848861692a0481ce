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
  const blur = (plane: Float32Array): Float32Array => {
    let from = plane;
    const half = new Float32Array(plane.length);
    for (let i = 0; i < passes; i++) {
      const to = new Float32Array(plane.length);
      boxAlong(from, half, width, height, 1, width, radius);
      boxAlong(half, to, height, width, width, 1, radius);
      from = to;
    }
    return from;
  };
  return { width, height, l: blur(planes.l), a: blur(planes.a), b: blur(planes.b) };
}

/** One running-mean pass along lines of `length` samples `step` apart; edges repeat. */
function boxAlong(from: Float32Array, to: Float32Array, length: number, lines: number, step: number, lineStep: number, radius: number): void {
  const share = 1 / (2 * radius + 1);
  for (let line = 0; line < lines; line++) {
    const start = line * lineStep;
    const last = start + (length - 1) * step;
    let sum = from[start]! * (radius + 1);
    for (let k = 1; k <= radius; k++) sum += from[Math.min(last, start + k * step)]!;
    for (let i = 0; i < length; i++) {
      to[start + i * step] = sum * share;
      sum += from[Math.min(last, start + (i + radius + 1) * step)]! - from[Math.max(start, start + (i - radius) * step)]!;
    }
  }
}
