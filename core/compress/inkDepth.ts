import { extremeFilter } from '../raster/morphology';
import type { PixelImage } from '../raster/pixelImage';

/** How far each pixel is from white, 0 to 255: by the channel that says most, so that yellow counts as well as black. */
export function inkDepth({ width, height, channels, data }: PixelImage): Uint8ClampedArray<ArrayBuffer> {
  const depth = new Uint8ClampedArray(width * height);
  if (channels === 1) for (let i = 0; i < depth.length; i++) depth[i] = 255 - data[i]!;
  else for (let i = 0, at = 0; i < depth.length; i++, at += channels) depth[i] = 255 - Math.min(data[at]!, data[at + 1]!, data[at + 2]!);
  return depth;
}

/** Half the square in which the darkest ink nearby is sought, as a share of the long side: 0.4 mm of A4. */
const NEAR_RADIUS = 0.0013;

/** The depth of the darkest ink close to every pixel: a stroke's full depth at its soft edge. */
export function strokeDepth(depth: Uint8ClampedArray, width: number, height: number): Float32Array {
  const radius = Math.max(1, Math.round(NEAR_RADIUS * Math.max(width, height)));
  return extremeFilter(Float32Array.from(depth), width, height, radius, 'largest');
}
