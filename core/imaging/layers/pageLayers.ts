import type { PixelImage } from '../raster/pixelImage';
import type { Rgb } from './inkColours';
import type { PixelBox } from './pixelBox';

/** All that is painted in one colour. */
export interface InkMask {
  readonly colour: Rgb;
  /** 1 for each of the inks whose pixels it paints: its own, and those of the darker tones over it. */
  readonly paints: Uint8Array;
}

export interface PageLayers {
  /** What is behind the ink, BACKGROUND_STEP times smaller than the page; null where that is plain white. */
  readonly background: PixelImage | null;
  /** Painted in order. */
  readonly inks: readonly InkMask[];
  /** All pixels that are painted, row by row, as indices into the page. */
  readonly inkPixels: Uint32Array;
  /** Which of the inks is the last to paint each of them. */
  readonly paintedBy: Uint8Array;
  /** Around all ink: every mask has this box. */
  readonly inkBox: PixelBox;
  /** Painted last. */
  readonly pictures: readonly { readonly box: PixelBox; readonly picture: PixelImage }[];
}

/** How many pixels of the page to one of PageLayers.background, across and down. */
export const BACKGROUND_STEP = 4;
