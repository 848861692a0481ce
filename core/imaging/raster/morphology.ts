import { MORPHOLOGY_KERNELS } from '../kernels/morphologyKernels';
import { FIRST_BYTE, scratchKernels } from '../kernels/startKernels';

/** Largest (dilate) or smallest (erode) value of a (2r+1)×(2r+1) square around each sample; beyond the border nothing counts. */
export type Extreme = 'largest' | 'smallest';

/**
 * Flat grey morphology with a square, rows then columns.
 * Method: windows that double in size, so a span of n takes log2 n comparisons a sample, four samples at a time in
 * WebAssembly (kernels/morphology.as.ts); the smallest of values is the largest of their negatives.
 * @param plane - width × height samples
 * @param radius - in px, at least 1
 * @param along - rows or columns alone make the square a line
 */
export function extremeFilter(
  plane: Float32Array,
  width: number,
  height: number,
  radius: number,
  extreme: Extreme,
  along: 'both' | 'rows' | 'columns' = 'both',
): Float32Array {
  return filtered(plane, width, height, radius, [extreme], along);
}

/** Closing: fills dark details narrower than the square, and leaves the edges of larger things where they are. */
export const closePlane = (plane: Float32Array, width: number, height: number, radius: number): Float32Array =>
  filtered(plane, width, height, radius, ['largest', 'smallest'], 'both');

function filtered(
  plane: Float32Array,
  width: number,
  height: number,
  radius: number,
  extremes: readonly Extreme[],
  along: 'both' | 'rows' | 'columns',
): Float32Array {
  const linesAt = FIRST_BYTE + 4 * (plane.length + 4);
  const { kernels, buffer } = start(linesAt + 16 * (Math.max(width, height) + 4 * (2 * radius + 1) + 16));
  const samples = new Float32Array(buffer, FIRST_BYTE, plane.length);
  samples.set(plane);
  for (const extreme of extremes) {
    if (extreme === 'smallest') kernels.negate(FIRST_BYTE, plane.length);
    if (along !== 'columns') kernels.largestAlongRows(FIRST_BYTE, width, height, radius, linesAt);
    if (along !== 'rows') kernels.largestAlongColumns(FIRST_BYTE, width, height, radius, linesAt);
    if (extreme === 'smallest') kernels.negate(FIRST_BYTE, plane.length);
  }
  return samples.slice();
}

/**
 * extremeFilter's largest, of bytes: a quarter of the memory, and faster.
 * @param plane - width × height samples, left as they are
 * @param radius - in px, at least 1
 */
export function largestByteAround(
  plane: Uint8ClampedArray,
  width: number,
  height: number,
  radius: number,
): Uint8ClampedArray<ArrayBuffer> {
  const linesAt = FIRST_BYTE + 16 * Math.ceil((plane.length + 16) / 16);
  const { kernels, buffer } = start(linesAt + 16 * (Math.max(width, height) + 4 * (2 * radius + 1) + 48));
  const samples = new Uint8ClampedArray(buffer, FIRST_BYTE, plane.length);
  samples.set(plane);
  kernels.largestByteAlongRows(FIRST_BYTE, width, height, radius, linesAt);
  kernels.largestByteAlongColumns(FIRST_BYTE, width, height, radius, linesAt);
  return samples.slice();
}

interface Kernels {
  negate(plane: number, count: number): void;
  largestAlongRows(plane: number, width: number, height: number, radius: number, line: number): void;
  largestAlongColumns(plane: number, width: number, height: number, radius: number, lines: number): void;
  largestByteAlongRows(plane: number, width: number, height: number, radius: number, line: number): void;
  largestByteAlongColumns(plane: number, width: number, height: number, radius: number, lines: number): void;
}
const start = scratchKernels<Kernels>(MORPHOLOGY_KERNELS);
