import { withWorkspace } from '../kernels/workspace';

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
  withWorkspace((ws) => {
    const chunkSlot = ws.clamped(4 * CHUNK_PX);
    const packed = ws.clamped(3 * CHUNK_PX);
    for (let from = 0; from < pixels.length; from += 4 * CHUNK_PX) {
      const chunk = pixels.subarray(from, from + 4 * CHUNK_PX);
      chunkSlot.set(chunk);
      if (order === 'rgba') ws.kernels.dropAlpha(chunkSlot.at, chunk.length / 4, packed.at);
      else ws.kernels.dropAlphaTurned(chunkSlot.at, chunk.length / 4, packed.at);
      packed.copyInto(into, at + (3 * from) / 4, (3 * chunk.length) / 4);
    }
  });
}
