import type { PixelImage } from '../raster/pixelImage';
import type { InkMasks } from './inkMasks';
import type { PixelBox } from './pixelBox';

export interface PageLayers extends InkMasks {
  /** What is behind the ink, BACKGROUND_STEP times smaller than the page; null where that is plain white. */
  readonly background: PixelImage | null;
  /** Around all ink: every mask has this box. */
  readonly inkBox: PixelBox;
  /** Painted last. */
  readonly pictures: readonly { readonly box: PixelBox; readonly picture: PixelImage }[];
}

/** How many pixels of the page to one of PageLayers.background, across and down. */
export const BACKGROUND_STEP = 4;
