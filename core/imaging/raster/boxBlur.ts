import { BLUR_KERNELS } from '../kernels/blurKernels';
import { FIRST_BYTE, scratchKernels } from '../kernels/startKernels';

interface BlurKernels {
  blurRows(plane: number, width: number, height: number, radius: number, line: number): void;
  blurColumns(plane: number, width: number, height: number, radius: number, lines: number): void;
  guide(
    plane: number,
    mean: number,
    slope: number,
    width: number,
    height: number,
    radius: number,
    contrast: number,
    lines: number,
  ): void;
}

/** Started by what blurs: kernels/blur.as.ts. */
export const blurKernels = scratchKernels<BlurKernels>(BLUR_KERNELS);
/** Bytes of a plane there, with what it has to spare. */
export const planeBytes = (samples: number): number => 4 * (samples + 16);
/** Bytes of the lines that a blur works in. */
export const lineBytes = (width: number, height: number, radius: number): number =>
  64 * (Math.max(width, height) + 2 * radius + 2);

/**
 * Blurs with box filters (means of a square, rows then columns); beyond the border the last sample repeats.
 * Method: running sums, so that the time does not grow with the radius.
 * @param plane - width × height samples, left as they are
 * @param radius - in px: a square of 2 × radius + 1
 * @param passes - three come close to a Gaussian
 * @param along - rows or columns alone make it a line
 */
export function boxBlur(
  plane: Float32Array,
  width: number,
  height: number,
  radius: number,
  passes: number,
  along: 'both' | 'rows' | 'columns' = 'both',
): Float32Array {
  const linesAt = FIRST_BYTE + planeBytes(plane.length);
  const { kernels, buffer } = blurKernels(linesAt + lineBytes(width, height, radius));
  const samples = new Float32Array(buffer, FIRST_BYTE, plane.length);
  samples.set(plane);
  for (let i = 0; i < passes; i++) {
    if (along !== 'columns') kernels.blurRows(FIRST_BYTE, width, height, radius, linesAt);
    if (along !== 'rows') kernels.blurColumns(FIRST_BYTE, width, height, radius, linesAt);
  }
  return samples.slice();
}
