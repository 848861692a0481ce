import { withWorkspace } from '../kernels/workspace';
import { lineSlot } from './boxBlur';

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
  return withWorkspace((ws) => {
    const samples = ws.of(plane);
    const mean = ws.f32(plane.length);
    const slope = ws.f32(plane.length);
    const lines = lineSlot(ws, width, height, radius);
    ws.kernels.guidedFilter(samples.at, mean.at, slope.at, width, height, radius, contrast, lines.at);
    return samples.copy();
  });
}
