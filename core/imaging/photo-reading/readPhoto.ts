import type { Quad } from '../geometry/quad';
import { estimateMotionBlur } from '../motion-blur/estimateMotionBlur';
import type { PixelImage } from '../raster/pixelImage';
import { isFocalRatio, type PhotoReading } from './photoReading';

/**
 * Reads a photo.
 * @param photo - RGB, RGBA or grey, upright, at its full size
 * @param page - the paper's outline in it, px
 * @param focalRatio - as the file tells it, or null; one that no lens has counts as not told
 */
export const readPhoto = (photo: PixelImage, page: Quad, focalRatio: number | null): PhotoReading => ({
  focalRatio: focalRatio !== null && isFocalRatio(focalRatio) ? focalRatio : null,
  motionBlur: estimateMotionBlur(photo, page),
});
