import { colourArena, type ColourPicture } from './colourPicture';
import { lineKernels } from './lineKernels';

/** Gradient of the strongest of the three channels at each pixel, in grey levels per pixel: three planes of 32-bit floats, void with their picture. */
export interface GradientField {
  readonly width: number;
  readonly height: number;
  /** Places (in bytes) in the colour kernels' memory. */
  readonly gx: number;
  readonly gy: number;
  readonly magnitude: number;
}

/** Central differences in lightness and both colours; the channel with the steepest slope speaks for the pixel. */
export function gradientField({ width, height, at }: ColourPicture): GradientField {
  const { kernels, reserve } = colourArena();
  const [gx, gy, magnitude] = [reserve(4 * width * height), reserve(4 * width * height), reserve(4 * width * height)];
  kernels.gradient(at, width, height, gx, gy, magnitude);
  return { width, height, gx, gy, magnitude };
}

/** Crests of the gradient, in the colour kernels' memory, void with their picture: x, y (pixel centres), unit normals, and a weight from 0 to 1 that saturates with steepness. */
export interface EdgePoints {
  readonly count: number;
  /** Place (in bytes) of five planes of 32-bit floats, and how many each has room for. */
  readonly at: number;
  readonly room: number;
}

/**
 * Thins the gradient to its crests (non-maximum suppression, Canny 1986), keeping even faint ones: a pale page on a
 * pale desk differs by a few grey levels, so weight saturates early and the threshold follows the picture's own noise.
 * @param medians - the threshold over the picture's median gradient; higher is faster and loses faint edges first
 */
export function findEdgePoints(
  { width, height, gx, gy, magnitude }: GradientField,
  floor: number,
  medians = 1.3,
): EdgePoints {
  const { buffer, reserve } = colourArena();
  const room = width * height;
  const at = reserve(5 * 4 * room);
  const least = Math.max(floor, medians * sampledMedian(new Float32Array(buffer(), magnitude, room)));
  return { count: lineKernels().crests(gx, gy, magnitude, width, height, least, room, at), at, room };
}

function sampledMedian(values: Float32Array): number {
  const step = Math.max(1, Math.floor(values.length / 2003));
  const sample = new Float32Array(Math.floor(values.length / step));
  for (let k = 0; k < sample.length; k++) sample[k] = values[k * step]!;
  return sample.sort()[sample.length >> 1] ?? 0;
}
