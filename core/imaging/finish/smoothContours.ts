import type { PixelImage } from '../raster/pixelImage';

/*
 * Strokes are cut where noise says so, to one side or the other of their true edge: their contours show bumps and pits of one
 * pixel, which were never written and are most of what a bilevel coder has to tell. A pixel goes with the majority of the
 * nine around it, but only where that neither joins nor parts anything (simple points: Yokoi, Toriwaki & Fukumura 1975) and
 * makes no stroke shorter.
 */

/** Neighbours of a pixel in the order they stand around it, as bits of what windowsOf reads. */
const RING = [1 << 7, 1 << 6, 1 << 3, 1 << 0, 1 << 1, 1 << 2, 1 << 5, 1 << 8] as const;
const MIDDLE = 1 << 4;
/** Neighbours of its own kind that a bump of one pixel has. With fewer a pixel is the end of a thin line, or of a slit: what goes there would be followed by the next one, and the line be eaten. */
const BUMP = 3;

/** For every window of 3 × 3 pixels (bits from its top left, ink is 1): whether its middle changes. */
const CHANGES = Uint8Array.from({ length: 1 << 9 }, (_, window) => {
  const ring = RING.map((bit) => ((window & bit) === 0 ? 0 : 1));
  const ink = ring.reduce<number>((sum, bit) => sum + bit, 0);
  const alike = (window & MIDDLE) === 0 ? RING.length - ink : ink;
  return alike === BUMP && isSimple(ring) ? 1 : 0;
});

/** Whether ink (joined over corners) and paper (joined over sides) hang together with and without a pixel, from its eight neighbours. */
function isSimple(ring: readonly number[]): boolean {
  let parts = 0;
  for (let side = 0; side < 8; side += 2) {
    const [here, corner, next] = [1 - ring[side]!, 1 - ring[side + 1]!, 1 - ring[(side + 2) % 8]!];
    parts += here - here * corner * next;
  }
  return parts === 1;
}

/**
 * Takes bumps and pits of one pixel from the contours of a bilevel page, in place.
 * @param page - grey, 0 for ink and 255 for paper
 */
export function smoothContoursInto(page: PixelImage): PixelImage {
  const { width, height, data } = page;
  for (let y = 1; y < height - 1; y++) smoothRow(data, y * width, width);
  return page;
}

/** 1 for ink. */
const inkOf = (level: number): number => 1 - (level & 1);

function smoothRow(data: Uint8ClampedArray, row: number, width: number): void {
  const end = row + width - 1;
  // columns of the three rows, as bits that slide along
  let above = (inkOf(data[row - width]!) << 1) | inkOf(data[row - width + 1]!);
  let middle = (inkOf(data[row]!) << 1) | inkOf(data[row + 1]!);
  let below = (inkOf(data[row + width]!) << 1) | inkOf(data[row + width + 1]!);
  for (let i = row + 1; i < end; i++) {
    above = ((above << 1) | inkOf(data[i + 1 - width]!)) & 7;
    middle = ((middle << 1) | inkOf(data[i + 1]!)) & 7;
    below = ((below << 1) | inkOf(data[i + 1 + width]!)) & 7;
    if (CHANGES[(above << 6) | (middle << 3) | below] === 0) continue;
    data[i] = 255 - data[i]!;
    middle ^= 2;
  }
}
