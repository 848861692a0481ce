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
  const { channels, data } = image;
  const out = createPixelImage(width, height, channels);
  const columns = coverage(image.width, width);
  const rows = coverage(image.height, height);
  const stride = image.width * channels;
  // rows first, in memory order; then along the one mixed row
  const mixed = new Float32Array(stride);
  for (let y = 0; y < height; y++) {
    mixed.fill(0);
    const { first, weights } = rows[y]!;
    for (let k = 0; k < weights.length; k++) {
      const row = (first + k) * stride;
      const wy = weights[k]!;
      for (let i = 0; i < stride; i++) mixed[i]! += wy * data[row + i]!;
    }
    for (let x = 0, to = y * width * channels; x < width; x++) {
      const { first: left, weights: shares } = columns[x]!;
      for (let c = 0; c < channels; c++, to++) {
        let sum = 0;
        for (let j = 0, at = left * channels + c; j < shares.length; j++, at += channels) sum += shares[j]! * mixed[at]!;
        out.data[to] = sum;
      }
    }
  }
  return out;
}

interface Coverage {
  readonly first: number;
  readonly weights: Float32Array;
}

/** For each output sample the source samples it covers and their shares, which sum to 1. */
function coverage(from: number, to: number): Coverage[] {
  const step = from / to;
  return Array.from({ length: to }, (_, i) => {
    const start = i * step;
    const end = Math.min(from, start + step);
    const first = Math.floor(start);
    const last = Math.min(from, Math.ceil(end));
    const weights = Float32Array.from({ length: last - first }, (_unused, k) => (Math.min(end, first + k + 1) - Math.max(start, first + k)) / step);
    return { first, weights };
  });
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
  while (from.width >= 2 * width && from.height >= 2 * height && from.width % 2 === 0 && from.height % 2 === 0) from = halveImage(from);
  return resizeByArea(from, width, height);
}
