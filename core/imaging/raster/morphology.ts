import { withWorkspace, type ClampedSlot, type Workspace } from '../kernels/workspace';

/** Largest (dilate) or smallest (erode) value of a (2r+1)×(2r+1) square around each sample; beyond the border nothing counts. */
export type Extreme = 'largest' | 'smallest';

export interface ExtremeFilter {
  readonly extreme: Extreme;
  /** In px, at least 1: of a square of 2 × radius + 1. */
  readonly radius: number;
  /** Rows or columns alone make the square a line. */
  readonly along?: 'both' | 'rows' | 'columns';
}

/**
 * Flat grey morphology with a square, rows then columns.
 * Method: windows that double in size, so a span of n takes log2 n comparisons a sample, four samples at a time in
 * WebAssembly; the smallest of values is the largest of their negatives.
 * @param plane - width × height samples, left as they are
 * @param filters - one after another
 */
export const extremeFilter = (
  plane: Float32Array,
  width: number,
  height: number,
  ...filters: readonly ExtremeFilter[]
): Float32Array =>
  withWorkspace((ws) => {
    const { kernels } = ws;
    const samples = ws.of(plane);
    const largest = Math.max(...filters.map(({ radius }) => radius));
    const lines = ws.f32(4 * (Math.max(width, height) + 4 * (2 * largest + 1) + 16));
    for (const { extreme, radius, along = 'both' } of filters) {
      if (extreme === 'smallest') kernels.negatePlane(samples.at, plane.length);
      if (along !== 'columns') kernels.largestAlongRows(samples.at, width, height, radius, lines.at);
      if (along !== 'rows') kernels.largestAlongColumns(samples.at, width, height, radius, lines.at);
      if (extreme === 'smallest') kernels.negatePlane(samples.at, plane.length);
    }
    return samples.copy();
  });

/** Closing: fills dark details narrower than the square, and leaves the edges of larger things where they are. */
export const closePlane = (plane: Float32Array, width: number, height: number, radius: number): Float32Array =>
  extremeFilter(plane, width, height, { extreme: 'largest', radius }, { extreme: 'smallest', radius });

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
  return withWorkspace((ws) => {
    const samples = ws.of(plane);
    spreadLargest(ws, samples, width, height, radius);
    return samples.copy();
  });
}

/** The same with the smallest: the largest of what is left to 255. */
export function smallestByteAround(
  plane: Uint8ClampedArray,
  width: number,
  height: number,
  radius: number,
): Uint8ClampedArray<ArrayBuffer> {
  return withWorkspace((ws) => {
    const samples = ws.of(plane);
    ws.kernels.invertBytes(samples.at, plane.length);
    spreadLargest(ws, samples, width, height, radius);
    ws.kernels.invertBytes(samples.at, plane.length);
    return samples.copy();
  });
}

function spreadLargest(ws: Workspace, samples: ClampedSlot, width: number, height: number, radius: number): void {
  const lines = ws.clamped(16 * (Math.max(width, height) + 4 * (2 * radius + 1) + 48));
  ws.kernels.largestByteAlongRows(samples.at, width, height, radius, lines.at);
  ws.kernels.largestByteAlongColumns(samples.at, width, height, radius, lines.at);
}
