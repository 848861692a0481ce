import { createPixelImage, type PixelImage } from './pixelImage';

/**
 * Half the width and height (rounded up), each pixel the mean of the four it covers: the low-pass that keeps fine
 * lines from breaking into stairs.
 */
export function halveImage(image: PixelImage): PixelImage {
  const { width, height, channels, data } = image;
  const out = createPixelImage((width + 1) >> 1, (height + 1) >> 1, channels);
  let to = 0;
  for (let y = 0; y < out.height; y++) {
    const row0 = 2 * y * width * channels;
    const row1 = Math.min(height - 1, 2 * y + 1) * width * channels;
    for (let x = 0; x < out.width; x++) {
      const x0 = 2 * x * channels;
      const x1 = Math.min(width - 1, 2 * x + 1) * channels;
      for (let c = 0; c < channels; c++) {
        out.data[to++] = (data[row0 + x0 + c]! + data[row0 + x1 + c]! + data[row1 + x0 + c]! + data[row1 + x1 + c]! + 2) >> 2;
      }
    }
  }
  return out;
}
