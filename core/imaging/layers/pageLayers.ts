import type { PixelImage } from '../raster/pixelImage';
import type { Rgb } from './inkColours';
import type { PixelBox } from './pixelBox';

/** What is painted over the paper, mask over mask, each in one colour. */
export interface InkMasks {
  /** Colours in the order of painting; at most 32. */
  readonly inks: readonly Rgb[];
  /** All pixels that are painted, row by row, as indices into the page. */
  readonly inkPixels: Uint32Array;
  /** For each of them the masks it belongs to: bit k for inks[k]. The highest is what is seen. */
  readonly paintedIn: Uint32Array;
}

export interface PageLayers extends InkMasks {
  /** What is behind the ink, BACKGROUND_STEP times smaller than the page; null where that is plain white. */
  readonly background: PixelImage | null;
  /** Around all ink: every mask has this box. */
  readonly inkBox: PixelBox;
  /** Painted last. */
  readonly pictures: readonly { readonly box: PixelBox; readonly picture: PixelImage }[];
}

/** The last mask of some that a pixel belongs to is the one that is seen. */
export const seenOf = (masks: number): number => 31 - Math.clz32(masks);

/** How many pixels of the page to one of PageLayers.background, across and down. */
export const BACKGROUND_STEP = 4;
