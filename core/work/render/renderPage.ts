import { applyFinish } from '../../imaging/finish/applyFinish';
import { lightPage, type LitPage } from '../../imaging/finish/litPage';
import {
  flattenPage,
  limitLongSide,
  readShape,
  type FlatSize,
  type PageShape,
} from '../../imaging/flatten/flattenPage';
import { turnBends } from '../../imaging/geometry/bentOutline';
import { scalePoint } from '../../imaging/geometry/point';
import { scaleQuad, turnQuad } from '../../imaging/geometry/quad';
import type { Mend } from '../../imaging/mend/mend';
import { mendPage } from '../../imaging/mend/mendPage';
import type { PixelImage } from '../../imaging/raster/pixelImage';
import type { Recipe } from '../recipe/recipe';

/** How the page lies in its photo, turned as it is read. */
export function shapeOf(photoWidth: number, photoHeight: number, { outline, quarterTurns, sheet }: Recipe): PageShape {
  return readShape(
    turnQuad(outline.corners, quarterTurns),
    photoWidth,
    photoHeight,
    turnBends(outline.bends, quarterTurns),
    sheet,
  );
}

/** The page's size at the photo's full detail, turned as it is read. */
export const renderedSize = (photoWidth: number, photoHeight: number, recipe: Recipe): FlatSize =>
  shapeOf(photoWidth, photoHeight, recipe).size;

/**
 * Lays the page flat, mends it, and looks at its light: what every finish of it begins with.
 * @param original - RGB, RGBA or grey, upright as to EXIF
 * @param longSidePx - the flat page's long side at most; it is never larger than the photo's own detail
 * @param reduced - how much smaller the original is than the photo it is a copy of, 1 for the photo itself
 * @param tell - told how much of the laying flat is done, 0 to 1
 * @throws FotoplanError OUTLINE_DEGENERATE when three corners lie on one line
 */
export function preparePage(
  original: PixelImage,
  recipe: Recipe,
  longSidePx: number,
  reduced = 1,
  tell?: (share: number) => void,
): LitPage {
  const shape = shapeOf(original.width, original.height, recipe);
  const size = limitLongSide(shape.size, longSidePx);
  const page = mendPage(flattenPage(original, shape, size, tell), shape, recipe.mends);
  return lightPage(page, (reduced * size.height) / shape.size.height);
}

/**
 * Applies a recipe to its original. Preview and final are this same computation at two sizes.
 * @param original - RGB, RGBA or grey, upright as to EXIF
 * @param longSidePx - the flat page's long side at most
 * @returns RGB or grey, upright as the page is read; Press comes out in two levels, up to twice as large
 * @throws FotoplanError OUTLINE_DEGENERATE when three corners lie on one line
 */
export function renderPage(original: PixelImage, recipe: Recipe, longSidePx: number): PixelImage {
  return applyFinish(preparePage(original, recipe, longSidePx), recipe.finish, recipe.light);
}

/** The same recipe for a copy of the original that is this many times as large. */
export const scaleRecipe = (recipe: Recipe, factor: number): Recipe => ({
  ...recipe,
  outline: { ...recipe.outline, corners: scaleQuad(recipe.outline.corners, factor) },
  mends: scaleMends(recipe.mends, factor),
});

export const scaleMends = (mends: readonly Mend[], factor: number): Mend[] =>
  mends.map(({ points, radius }) => ({ points: points.map((p) => scalePoint(p, factor)), radius: radius * factor }));
