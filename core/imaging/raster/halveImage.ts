import { createPixelImage, type PixelImage } from './pixelImage';
import { SHRINK_KERNELS } from '../kernels/shrinkKernels';
import { FIRST_BYTE, scratchKernels } from '../kernels/startKernels';

interface ShrinkKernels {
  halveRows(upper: number, lower: number, channels: number, width: number, out: number): void;
  dropAlpha(pixels: number, count: number, out: number): void;
  dropAlphaTurned(pixels: number, count: number, out: number): void;
  addRow(row: number, count: number, weight: number, mixed: number): void;
  shrinkRow(
    mixed: number,
    channels: number,
    firsts: number,
    weights: number,
    each: number,
    width: number,
    out: number,
  ): void;
}

/** Started by what makes pictures smaller: kernels/shrink.as.ts. */
export const shrinkKernels = scratchKernels<ShrinkKernels>(SHRINK_KERNELS);

/**
 * Half the width and height (rounded up), each pixel the mean of the four it covers: the low-pass that keeps fine
 * lines from breaking into stairs.
 */
export function halveImage({ width, height, channels, data }: PixelImage): PixelImage {
  const out = createPixelImage((width + 1) >> 1, (height + 1) >> 1, channels);
  const stride = width * channels;
  const room = stride + channels + 16;
  const lowerAt = FIRST_BYTE + room;
  const outAt = lowerAt + room;
  const { kernels, buffer } = shrinkKernels(outAt + room);
  const bytes = new Uint8ClampedArray(buffer);
  const halved = bytes.subarray(outAt, outAt + out.width * channels);
  const read = (y: number, at: number): void => {
    bytes.set(data.subarray(y * stride, (y + 1) * stride), at);
    // an odd last column is its own neighbour
    bytes.copyWithin(at + stride, at + stride - channels, at + stride);
  };
  for (let y = 0; y < out.height; y++) {
    read(2 * y, FIRST_BYTE);
    read(Math.min(height - 1, 2 * y + 1), lowerAt);
    kernels.halveRows(FIRST_BYTE, lowerAt, channels, out.width, outAt);
    out.data.set(halved, y * halved.length);
  }
  return out;
}
