import { applyFinish } from '../finish/applyFinish';
import { flattenPage, limitLongSide, naturalSize, type FlatSize } from '../flatten/flattenPage';
import { turnQuad } from '../geometry/quad';
import type { PixelImage } from '../raster/pixelImage';
import type { Recipe } from './recipe';

/** The page's size at the photo's full detail, turned as it is read. */
export function renderedSize(photoWidth: number, photoHeight: number, recipe: Recipe, focalShare?: number): FlatSize {
  return naturalSize(turnQuad(recipe.outline.corners, recipe.quarterTurns), photoWidth, photoHeight, focalShare);
}

/**
 * Applies a recipe to its original. Preview and final are this same computation at two sizes.
 * @param original - RGB, RGBA or grey, upright as to EXIF
 * @param longSidePx - the output's long side at most; it is never larger than the photo's own detail
 * @returns RGB (grey stays grey), upright as the page is read
 * @throws FotoplanError OUTLINE_DEGENERATE when three corners lie on one line
 */
export function renderPage(original: PixelImage, recipe: Recipe, longSidePx: number): PixelImage {
  const outline = turnQuad(recipe.outline.corners, recipe.quarterTurns);
  const size = limitLongSide(naturalSize(outline, original.width, original.height), longSidePx);
  return applyFinish(flattenPage(original, outline, size), recipe.finish);
}
