import { shrinkKernels } from './halveImage';
import { FIRST_BYTE } from './startKernels';

/** So many pixels are in the kernels' memory at a time. */
const CHUNK_PX = 1 << 16;

/**
 * Drops the fourth channel.
 * @param rgba - four bytes a pixel
 * @param into - gets three bytes a pixel, from `at` on
 */
export function packRgb(rgba: Uint8ClampedArray, into: Uint8ClampedArray, at: number): void {
  const outAt = FIRST_BYTE + 4 * CHUNK_PX;
  const { kernels, buffer } = shrinkKernels(outAt + 3 * CHUNK_PX + 16);
  const bytes = new Uint8ClampedArray(buffer);
  for (let from = 0; from < rgba.length; from += 4 * CHUNK_PX) {
    const chunk = rgba.subarray(from, from + 4 * CHUNK_PX);
    bytes.set(chunk, FIRST_BYTE);
    kernels.dropAlpha(FIRST_BYTE, chunk.length / 4, outAt);
    into.set(bytes.subarray(outAt, outAt + (3 * chunk.length) / 4), at + (3 * from) / 4);
  }
}
