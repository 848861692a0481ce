import { applyFinish } from '../finish/applyFinish';
import { flattenPage, limitLongSide, readShape, type FlatSize, type PageShape } from '../flatten/flattenPage';
import { turnBends } from '../geometry/bentOutline';
import { turnQuad } from '../geometry/quad';
import type { PixelImage } from '../raster/pixelImage';
import type { Recipe } from './recipe';

/** How the page lies in its photo, turned as it is read. */
export function shapeOf(photoWidth: number, photoHeight: number, { outline, quarterTurns, sheet }: Recipe): PageShape {
  return readShape(turnQuad(outline.corners, quarterTurns), photoWidth, photoHeight, turnBends(outline.bends, quarterTurns), sheet);
}

/** The page's size at the photo's full detail, turned as it is read. */
export const renderedSize = (photoWidth: number, photoHeight: number, recipe: Recipe): FlatSize => shapeOf(photoWidth, photoHeight, recipe).size;

/**
 * Applies a recipe to its original. Preview and final are this same computation at two sizes.
 * @param original - RGB, RGBA or grey, upright as to EXIF
 * @param longSidePx - the output's long side at most; it is never larger than the photo's own detail
 * @returns RGB (grey stays grey), upright as the page is read
 * @throws FotoplanError OUTLINE_DEGENERATE when three corners lie on one line
 */
export function renderPage(original: PixelImage, recipe: Recipe, longSidePx: number): PixelImage {
  const shape = shapeOf(original.width, original.height, recipe);
  return applyFinish(flattenPage(original, shape, limitLongSide(shape.size, longSidePx)), recipe.finish);
}
