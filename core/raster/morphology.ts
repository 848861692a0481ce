import { MORPHOLOGY_KERNELS } from './morphologyKernels';
import { pagesFor, startKernels } from './startKernels';

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
export function extremeFilter(plane: Float32Array, width: number, height: number, radius: number, extreme: Extreme, along: 'both' | 'rows' | 'columns' = 'both'): Float32Array {
  const span = 2 * radius + 1;
  const planeAt = FIRST_BYTE;
  const linesAt = planeAt + 4 * (plane.length + 4);
  const { memory, kernels } = start(linesAt + 16 * (Math.max(width, height) + 4 * span + 16));
  const samples = new Float32Array(memory.buffer, planeAt, plane.length);
  if (extreme === 'largest') samples.set(plane);
  else for (let i = 0; i < samples.length; i++) samples[i] = -plane[i]!;
  if (along !== 'columns') kernels.largestAlongRows(planeAt, width, height, radius, linesAt);
  if (along !== 'rows') kernels.largestAlongColumns(planeAt, width, height, radius, linesAt);
  const out = samples.slice();
  if (extreme === 'smallest') for (let i = 0; i < out.length; i++) out[i] = -out[i]!;
  return out;
}

interface Kernels {
  largestAlongRows(plane: number, width: number, height: number, radius: number, line: number): void;
  largestAlongColumns(plane: number, width: number, height: number, radius: number, lines: number): void;
}
const FIRST_BYTE = 1024;
let started: { readonly memory: WebAssembly.Memory; readonly kernels: Kernels } | null = null;

/** The kernels with so many bytes of memory; what was there before is gone. */
function start(bytes: number): { readonly memory: WebAssembly.Memory; readonly kernels: Kernels } {
  started ??= startKernels<Kernels>(MORPHOLOGY_KERNELS);
  const { memory } = started;
  if (bytes > memory.buffer.byteLength) memory.grow(pagesFor(bytes - memory.buffer.byteLength));
  return started;
}

/** Closing: fills dark details narrower than the square, and leaves the edges of larger things where they are. */
export function closePlane(plane: Float32Array, width: number, height: number, radius: number): Float32Array {
  return extremeFilter(extremeFilter(plane, width, height, radius, 'largest'), width, height, radius, 'smallest');
}
