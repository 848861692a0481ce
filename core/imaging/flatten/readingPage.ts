import type { PixelImage } from '../raster/pixelImage';
import { flattenPage, limitLongSide, type PageShape } from './flattenPage';

/** Rulings are then a px wide, print six px high. */
const LONG_SIDE_PX = 1000;

/** The page laid flat as it is read: for which way up it is, and for lines that stand on it. */
export const readingPage = (photo: PixelImage, shape: PageShape): PixelImage =>
  flattenPage(photo, shape, limitLongSide(shape.size, LONG_SIDE_PX));
