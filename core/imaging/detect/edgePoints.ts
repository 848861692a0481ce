import type { FloatSlot, Workspace } from '../kernels/workspace';
import type { ColourPicture } from './colourPicture';
import { quantile } from '../raster/quantile';

/** Gradient of the strongest of the three channels at each pixel, in grey levels per pixel: three planes [y, x]. */
export interface GradientField {
  readonly width: number;
  readonly height: number;
  readonly gx: FloatSlot;
  readonly gy: FloatSlot;
  readonly magnitude: FloatSlot;
}

/** Central differences in lightness and both colours; the channel with the steepest slope speaks for the pixel. */
export function gradientField({ width, height, samples }: ColourPicture, ws: Workspace): GradientField {
  const [gx, gy, magnitude] = [ws.f32(width * height), ws.f32(width * height), ws.f32(width * height)];
  ws.kernels.pictureGradient(samples.at, width, height, gx.at, gy.at, magnitude.at);
  return { width, height, gx, gy, magnitude };
}

/** Maxima of the gradient (ridges of its magnitude): x, y (pixel centres), unit normals, and a weight from 0 to 1 that saturates with steepness. */
export interface EdgePoints {
  readonly count: number;
  /** Five planes, each with room for so many points. */
  readonly planes: FloatSlot;
  readonly room: number;
}

/**
 * Thins the gradient to its maxima (non-maximum suppression, Canny 1986), keeping even faint ones: a pale page on a
 * pale desk differs by a few grey levels, so weight saturates early and the threshold follows the picture's own noise.
 * @param floor - the threshold is never lower, levels per pixel
 * @param medians - the threshold over the picture's median gradient; higher is faster and loses faint edges first
 */
export function findEdgePoints(
  { width, height, gx, gy, magnitude }: GradientField,
  { floor, medians = 1.3 }: { readonly floor: number; readonly medians?: number },
  ws: Workspace,
): EdgePoints {
  const room = width * height;
  const planes = ws.f32(5 * room);
  const least = Math.max(floor, medians * magnitude.view(sampledMedian));
  const count = ws.kernels.gradientMaxima(gx.at, gy.at, magnitude.at, width, height, least, room, planes.at);
  return { count, planes, room };
}

function sampledMedian(values: Float32Array): number {
  const step = Math.max(1, Math.floor(values.length / 2003));
  const sample = new Float32Array(Math.floor(values.length / step));
  for (let k = 0; k < sample.length; k++) sample[k] = values[k * step]!;
  return quantile(sample, 0.5, 0);
}
