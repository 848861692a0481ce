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
  const line = new Float32Array(width * channels);
  for (let y = 0; y < height; y++) {
    line.fill(0);
    const { first, weights } = rows[y]!;
    for (let k = 0; k < weights.length; k++) {
      const row = (first + k) * image.width * channels;
      const wy = weights[k]!;
      for (let x = 0; x < width; x++) {
        const column = columns[x]!;
        let at = row + column.first * channels;
        for (let j = 0; j < column.weights.length; j++, at += channels) {
          const w = wy * column.weights[j]!;
          for (let c = 0; c < channels; c++) line[x * channels + c]! += w * data[at + c]!;
        }
      }
    }
    out.data.set(line, y * width * channels);
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

/** Shrinks so that the long side has at most this many pixels; a smaller picture comes back as it is. */
export function fitLongSide(image: PixelImage, longSidePx: number): PixelImage {
  const factor = longSidePx / Math.max(image.width, image.height);
  if (factor >= 1) return image;
  return resizeByArea(image, Math.max(1, Math.round(image.width * factor)), Math.max(1, Math.round(image.height * factor)));
}
