import { blurKernels, lineBytes, planeBytes } from './boxBlur';
import { FIRST_BYTE } from '../kernels/startKernels';

/**
 * Smooths a plane and keeps its own edges.
 * Method: guided filter with the plane as its own guide (He, Sun & Tang, ECCV 2010), with a tolerance that grows with
 * brightness, as contrast seen does.
 * @param plane - width × height samples, not negative
 * @param radius - of the square that is looked at, px
 * @param contrast - relative contrast about which smoothing gives way to keeping
 */
export function guidedSmooth(
  plane: Float32Array,
  width: number,
  height: number,
  radius: number,
  contrast: number,
): Float32Array {
  const bytes = planeBytes(plane.length);
  const linesAt = FIRST_BYTE + 3 * bytes;
  const { kernels, buffer } = blurKernels(linesAt + lineBytes(width, height, radius));
  const samples = new Float32Array(buffer, FIRST_BYTE, plane.length);
  samples.set(plane);
  kernels.guide(FIRST_BYTE, FIRST_BYTE + bytes, FIRST_BYTE + 2 * bytes, width, height, radius, contrast, linesAt);
  return samples.slice();
}
