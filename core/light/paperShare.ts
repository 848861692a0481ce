import type { PixelImage } from '../raster/pixelImage';
import type { PaperField } from './paperField';

/** From this many rows to one of the field on, two at a time have the same gains. */
const SHARED_FROM = 1.6;

/** Calls `row` for every row of the page with what its samples, channel by channel, are to be multiplied by so that paper becomes `level`. */
export function forEachGainRow({ width, height }: { readonly width: number; readonly height: number }, planes: readonly Float32Array[], field: { readonly width: number; readonly height: number }, level: number, row: (y: number, gains: readonly Float32Array[]) => void): void {
  // the gain runs straight from one of the field's columns to the next: where each such stretch begins, and how far into it
  const begins = Int32Array.from({ length: field.width + 1 }, (_, i) => (i === 0 ? 0 : i >= field.width ? width : Math.min(width, Math.max(0, Math.ceil(((i + 0.5) / field.width) * width - 0.5)))));
  const perPixel = field.width / width;
  const inverse = planes.map((plane) => invert(plane, level));
  const gains = planes.map(() => new Float32Array(width));
  const mixed = new Float32Array(field.width);
  // the field is far coarser than the page: two rows share their gains
  const shared = height > SHARED_FROM * field.height ? 2 : 1;
  for (let y = 0; y < height; y++) {
    if (y % shared !== 0) {
      row(y, gains);
      continue;
    }
    const v = Math.min(field.height - 1, Math.max(0, ((y + 0.5) / height) * field.height - 0.5));
    const low = Math.floor(v) * field.width;
    const high = Math.min(field.height - 1, Math.floor(v) + 1) * field.width;
    const f = v - Math.floor(v);
    for (const [c, plane] of inverse.entries()) {
      for (let i = 0; i < mixed.length; i++) mixed[i] = plane[low + i]! + (plane[high + i]! - plane[low + i]!) * f;
      const out = gains[c]!;
      for (let i = 0; i < mixed.length; i++) {
        const end = begins[i + 1]!;
        let x = begins[i]!;
        const slope = i + 1 < mixed.length ? (mixed[i + 1]! - mixed[i]!) * perPixel : 0;
        let gain = mixed[i]! + slope * Math.max(0, ((x + 0.5) * perPixel - 0.5 - i) / perPixel);
        // left of the first column's middle nothing is known but that column
        if (i === 0) for (const middle = Math.min(end, Math.ceil(0.5 / perPixel - 0.5)); x < middle; x++) out[x] = gain;
        for (; x < end; x++, gain += slope) out[x] = gain;
      }
    }
    row(y, gains);
  }
}

function invert(plane: Float32Array, level: number): Float32Array {
  const out = new Float32Array(plane.length);
  for (let i = 0; i < out.length; i++) out[i] = level / plane[i]!;
  return out;
}

/** One row of one channel through a tone curve of as many steps as paper was given: curve[sample × gain]. */
export function toneRow(data: Uint8ClampedArray, from: number, step: number, gain: Float32Array, curve: Uint8ClampedArray, out: Uint8ClampedArray, to: number, outStep: number): void {
  const last = curve.length - 1;
  for (let x = 0; x < gain.length; x++) {
    const index = data[from]! * gain[x]!;
    out[to] = curve[index > last ? last : index | 0]!;
    from += step;
    to += outStep;
  }
}

/** What paper is in a plane of shares: brighter is kept, up to 255 / 200. */
export const PAPER_LEVEL = 200;

/** The page's lightness as a share of the paper's, PAPER_LEVEL for paper, one byte a pixel. */
export function lightnessShare(page: PixelImage, field: PaperField): Uint8ClampedArray<ArrayBuffer> {
  const { width, channels, data } = page;
  const out = new Uint8ClampedArray(width * page.height);
  forEachGainRow(page, field.planes, field, PAPER_LEVEL, (y, gains) => {
    let from = y * width * channels;
    const to = y * width;
    if (gains.length === 1) {
      const grey = gains[0]!;
      for (let x = 0; x < width; x++, from += channels) out[to + x] = data[from]! * grey[x]!;
    } else {
      const [red, green, blue] = gains as [Float32Array, Float32Array, Float32Array];
      mixRow(data, from, channels, red, green, blue, out, to);
    }
  });
  return out;
}

function mixRow(data: Uint8ClampedArray, from: number, step: number, red: Float32Array, green: Float32Array, blue: Float32Array, out: Uint8ClampedArray, to: number): void {
  for (let x = 0; x < red.length; x++, from += step) out[to + x] = 0.299 * data[from]! * red[x]! + 0.587 * data[from + 1]! * green[x]! + 0.114 * data[from + 2]! * blue[x]!;
}
