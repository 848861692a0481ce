import { boxBlur } from './boxBlur';

/**
 * Smooths a plane and keeps its own edges.
 * Method: guided filter with the plane as its own guide (He, Sun & Tang, ECCV 2010), with a tolerance that grows with
 * brightness, as contrast seen does.
 * @param plane - width × height samples, not negative
 * @param radius - of the square that is looked at, px
 * @param contrast - relative contrast about which smoothing gives way to keeping
 */
export function guidedSmooth(plane: Float32Array, width: number, height: number, radius: number, contrast: number): Float32Array {
  const mean = boxBlur(plane, width, height, radius, 1);
  const slope = boxBlur(plane.map((v) => v * v), width, height, radius, 1);
  const offset = new Float32Array(plane.length);
  for (let i = 0; i < slope.length; i++) {
    const variance = Math.max(0, slope[i]! - mean[i]! ** 2);
    const a = variance / (variance + (contrast * mean[i]!) ** 2 + 1e-6);
    slope[i] = a;
    offset[i] = mean[i]! * (1 - a);
  }
  const slopes = boxBlur(slope, width, height, radius, 1);
  const offsets = boxBlur(offset, width, height, radius, 1);
  return plane.map((v, i) => slopes[i]! * v + offsets[i]!);
}
