import type { Address } from '../kernels/kernels';
import { withWorkspace, type Workspace } from '../kernels/workspace';
import type { PixelImage } from './pixelImage';

/** So many pixels are in the kernels' memory at a time. */
const CHUNK_PX = 1 << 16;

/** How a pixel's four bytes lie. */
export type PixelOrder = 'rgba' | 'bgra';

/**
 * Drops the fourth channel.
 * @param pixels - four bytes each
 * @param into - gets RGB, from `at` on
 */
export function packRgb(
  pixels: Uint8ClampedArray,
  into: Uint8ClampedArray,
  at: number,
  order: PixelOrder = 'rgba',
): void {
  withWorkspace((ws) => {
    const chunkSlot = ws.clamped(4 * CHUNK_PX);
    const packed = ws.clamped(3 * CHUNK_PX);
    for (let from = 0; from < pixels.length; from += 4 * CHUNK_PX) {
      const chunk = pixels.subarray(from, from + 4 * CHUNK_PX);
      chunkSlot.set(chunk);
      dropFourth(ws, chunkSlot.at, chunk.length / 4, packed.at, order);
      packed.copyInto(into, at + (3 * from) / 4, (3 * chunk.length) / 4);
    }
  });
}

function dropFourth({ kernels }: Workspace, pixels: Address, count: number, out: Address, order: PixelOrder): void {
  if (order === 'rgba') kernels.dropAlpha(pixels, count, out);
  else kernels.dropAlphaOfBgra(pixels, count, out);
}

/** Some whole rows of a picture as its file stores it, and how it is turned to be upright. */
export interface StoredRows {
  /** Four bytes each. */
  readonly pixels: Uint8ClampedArray;
  readonly order: PixelOrder;
  /** Of a row, px: the upright picture's height. */
  readonly length: number;
  /** Which row is the first of these. */
  readonly first: number;
  /** By a quarter: clockwise the file's first row is the picture's last column. */
  readonly clockwise: boolean;
}

/**
 * Lays rows of a file as columns of an upright picture, and drops the fourth channel.
 * @param into - RGB
 */
export function packTurned({ pixels, order, length, first, clockwise }: StoredRows, into: PixelImage): void {
  const rows = pixels.length / 4 / length;
  const left = clockwise ? into.width - first - rows : first;
  withWorkspace((ws) => {
    const turned = ws.clamped(pixels.length);
    const packed = ws.clamped(3 * length * rows);
    ws.kernels.columnsAsRows(ws.of(pixels).at, length, rows, clockwise, turned.at);
    dropFourth(ws, turned.at, length * rows, packed.at, order);
    packed.view((samples) => {
      for (let k = 0; k < length; k++) {
        const y = clockwise ? k : length - 1 - k;
        into.data.set(samples.subarray(3 * k * rows, 3 * (k + 1) * rows), 3 * (y * into.width + left));
      }
    });
  });
}
