import { lumaOf } from './lightness';
import type { PixelImage } from './pixelImage';

/** One value a pixel, on the 0–255 scale. */
export interface Plane {
  readonly width: number;
  readonly height: number;
  readonly data: Float32Array;
}

/** Lightness (Rec. 601 weights). */
export function lightnessPlane({ width, height, channels, data }: PixelImage): Plane {
  if (channels === 1) return { width, height, data: new Float32Array(data) };
  const out = new Float32Array(width * height);
  for (let i = 0, at = 0; i < out.length; i++, at += channels) out[i] = lumaOf(data[at]!, data[at + 1]!, data[at + 2]!);
  return { width, height, data: out };
}

/** Half the size, each pixel the mean of four; an odd last row or column is dropped. */
export function halvePlane({ width, height, data }: Plane): Plane {
  const w = width >> 1;
  const h = height >> 1;
  const out = new Float32Array(w * h);
  for (let y = 0; y < h; y++) {
    for (let x = 0, at = 2 * y * width, to = y * w; x < w; x++, at += 2, to++)
      out[to] = (data[at]! + data[at + 1]! + data[at + width]! + data[at + width + 1]!) / 4;
  }
  return { width: w, height: h, data: out };
}

/** Rows for columns. */
export function transposePlane({ width, height, data }: Plane): Plane {
  const out = new Float32Array(data.length);
  for (let y = 0; y < height; y++) for (let x = 0; x < width; x++) out[x * height + y] = data[y * width + x]!;
  return { width: height, height: width, data: out };
}
