import { withWorkspace, type Workspace } from '../kernels/workspace';
import { halveImage } from './halveImage';
import { createPixelImage, type PixelImage } from './pixelImage';

/**
 * Shrinks a picture to the size given; every output pixel is the mean of the source area it covers (a box low-pass as
 * wide as the step, so nothing aliases).
 * @param image - 1, 3 or 4 channels; a fourth is treated like the others
 * @param width - at least 1, at most image.width
 * @param height - at least 1, at most image.height
 * @throws RangeError when asked to enlarge
 */
export function resizeByArea(image: PixelImage, width: number, height: number): PixelImage {
  if (width > image.width || height > image.height) {
    throw new RangeError(`resizeByArea shrinks only: ${image.width} × ${image.height} to ${width} × ${height}`);
  }
  if (width === image.width && height === image.height) return image;
  return withWorkspace(shrink, image, width, height);
}

function shrink(ws: Workspace, image: PixelImage, width: number, height: number): PixelImage {
  const { channels, data } = image;
  const out = createPixelImage(width, height, channels);
  const columns = coverage(image.width, width);
  const rows = coverage(image.height, height);
  const stride = image.width * channels;
  const firsts = ws.of(columns.firsts);
  const weights = ws.of(columns.weights);
  const mixed = ws.f32(stride + columns.each * channels);
  const row = ws.clamped(stride);
  const shrunk = ws.clamped(width * channels);
  // rows first, in memory order; then along the one mixed row
  for (let y = 0; y < height; y++) {
    mixed.fill(0);
    for (let k = 0; k < rows.each; k++) {
      const weight = rows.weights[y * rows.each + k]!;
      if (weight === 0) continue;
      const from = (rows.firsts[y]! + k) * stride;
      row.set(data.subarray(from, from + stride));
      ws.kernels.addWeightedRow(row.at, stride, weight, mixed.at);
    }
    ws.kernels.shrinkRow(mixed.at, channels, firsts.at, weights.at, columns.each, width, shrunk.at);
    shrunk.copyInto(out.data, y * shrunk.length);
  }
  return out;
}

/** For each output sample the first source sample it covers, and the shares of that and of those behind it, which sum to 1. */
interface Coverage {
  readonly firsts: Int32Array;
  /** So many shares to a sample, the last of them often 0. */
  readonly each: number;
  readonly weights: Float32Array;
}

function coverage(from: number, to: number): Coverage {
  const step = from / to;
  const each = Math.ceil(step) + 1;
  const firsts = Int32Array.from({ length: to }, (_, i) => Math.floor(i * step));
  const weights = new Float32Array(to * each);
  for (let i = 0; i < to; i++) {
    const end = Math.min(from, (i + 1) * step);
    for (let k = 0, at = firsts[i]!; k < each && at < end; k++, at++)
      weights[i * each + k] = (Math.min(end, at + 1) - Math.max(i * step, at)) / step;
  }
  return { firsts, each, weights };
}

/**
 * Shrinks so that the long side has at most this many pixels; a smaller picture comes back as it is. Halves first, which
 * is the same mean in whole numbers and several times faster.
 */
export function fitLongSide(image: PixelImage, longSidePx: number): PixelImage {
  const factor = longSidePx / Math.max(image.width, image.height);
  if (factor >= 1) return image;
  const width = Math.max(1, Math.round(image.width * factor));
  const height = Math.max(1, Math.round(image.height * factor));
  let from = image;
  // odd sizes gain half a pixel when halved; even ones stay exact
  while (from.width >= 2 * width && from.height >= 2 * height && from.width % 2 === 0 && from.height % 2 === 0)
    from = halveImage(from);
  return resizeByArea(from, width, height);
}
