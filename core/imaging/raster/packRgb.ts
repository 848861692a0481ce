import { shrinkKernels } from './halveImage';
import { FIRST_BYTE } from '../kernels/startKernels';

/** So many pixels are in the kernels' memory at a time. */
const CHUNK_PX = 1 << 16;

/**
 * Drops the fourth channel.
 * @param pixels - four bytes each, RGBA or BGRA
 * @param into - gets RGB, from `at` on
 */
export function packRgb(
  pixels: Uint8ClampedArray,
  into: Uint8ClampedArray,
  at: number,
  order: 'rgba' | 'bgra' = 'rgba',
): void {
  const outAt = FIRST_BYTE + 4 * CHUNK_PX;
  const { kernels, buffer } = shrinkKernels(outAt + 3 * CHUNK_PX + 16);
  const bytes = new Uint8ClampedArray(buffer);
  for (let from = 0; from < pixels.length; from += 4 * CHUNK_PX) {
    const chunk = pixels.subarray(from, from + 4 * CHUNK_PX);
    bytes.set(chunk, FIRST_BYTE);
    if (order === 'rgba') kernels.dropAlpha(FIRST_BYTE, chunk.length / 4, outAt);
    else kernels.dropAlphaTurned(FIRST_BYTE, chunk.length / 4, outAt);
    into.set(bytes.subarray(outAt, outAt + (3 * chunk.length) / 4), at + (3 * from) / 4);
  }
}
