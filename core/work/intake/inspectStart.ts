import { A4_LONG_SIDE_MM, CARD_LONG_SIDE_MM } from '../paper/paperSize';
import { inspectShot, type ShotVerdict } from '../../imaging/quality/inspectShot';
import type { PixelImage } from '../../imaging/raster/pixelImage';
import type { Recipe } from '../recipe/recipe';

/**
 * What a careful person would say of the shot of a page whose outline is known.
 * @param photo - upright, full size
 * @param recipe - of this photo
 */
export const inspectStart = (photo: PixelImage, { outline, kind, reading }: Recipe): ShotVerdict =>
  inspectShot(photo, outline.corners, {
    motionBlur: reading.motionBlur,
    longSideMm: kind === 'card' ? CARD_LONG_SIDE_MM : A4_LONG_SIDE_MM,
  });
