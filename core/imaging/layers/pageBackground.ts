import { withWorkspace, type Workspace } from '../kernels/workspace';
import { fillMasked } from '../light/fillMasked';
import { largestByteAround } from '../raster/morphology';
import { createPixelImage, type PixelImage } from '../raster/pixelImage';
import { releaseBuffers } from '../raster/releaseBuffers';
import { BACKGROUND_STEP } from './pageLayers';
import { forEachRow, type PixelBox } from './pixelBox';

/** So many pixels around ink are not asked what is behind it: they are its blur. */
const BLUR_PX = 2;
/** A background as white as this everywhere is left to the paper. */
const WHITE_FROM = 249;

/** The page without its ink, small and smooth; null where nothing is left. */
export function pageBackground(
  page: PixelImage,
  is: Uint8ClampedArray,
  pictures: readonly PixelBox[],
): PixelImage | null {
  const { width, height, channels } = page;
  const covered = largestByteAround(is, width, height, BLUR_PX);
  for (const box of pictures) forEachRow(box, width, (from, to) => covered.fill(1, from, to));
  const w = Math.ceil(width / BACKGROUND_STEP);
  const h = Math.ceil(height / BACKGROUND_STEP);
  const out = createPixelImage(w, h, channels === 1 ? 1 : 3);
  const means = Array.from({ length: out.channels }, () => new Float32Array(w * h));
  const unknown = new Uint8Array(w * h);
  const darkest = withWorkspace(meanBlocks, page, covered, means, unknown);
  // what is filled in lies between what is known
  releaseBuffers(covered);
  if (darkest >= WHITE_FROM) return null;
  means.forEach((plane, c) => interleave(fillMasked(plane, unknown, w, h), out, c));
  return out;
}

/**
 * The means of blocks of BACKGROUND_STEP × BACKGROUND_STEP pixels, of what is not covered.
 * @param means - get them, a plane a channel
 * @param unknown - gets 1 where all of a block is covered
 * @returns the darkest mean
 */
function meanBlocks(
  ws: Workspace,
  { width, height, channels, data }: PixelImage,
  covered: Uint8ClampedArray,
  means: readonly Float32Array[],
  unknown: Uint8Array,
): number {
  const w = Math.ceil(width / BACKGROUND_STEP);
  const h = Math.ceil(height / BACKGROUND_STEP);
  const most = BACKGROUND_STEP * width;
  const pixels = ws.clamped(most * channels);
  const masked = ws.clamped(most);
  const sums = ws.i32(4 * w);
  const found = new Int32Array(4 * w);
  let least = 255;
  for (let v = 0; v < h; v++) {
    const from = v * most;
    const end = Math.min(width * height, from + most);
    pixels.set(data.subarray(from * channels, end * channels));
    masked.set(covered.subarray(from, end));
    ws.kernels.sumBlocks(pixels.at, masked.at, width, (end - from) / width, channels, sums.at);
    sums.copyInto(found, 0);
    for (let u = 0, to = v * w; u < w; u++, to++) {
      const count = found[4 * u + 3]!;
      if (count === 0) {
        unknown[to] = 1;
        continue;
      }
      for (let c = 0; c < means.length; c++) {
        const mean = found[4 * u + c]! / count;
        means[c]![to] = mean;
        if (mean < least) least = mean;
      }
    }
  }
  return least;
}

function interleave(plane: Float32Array, { channels, data }: PixelImage, channel: number): void {
  for (let i = 0, at = channel; i < plane.length; i++, at += channels) data[at] = plane[i]!;
}
