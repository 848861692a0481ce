import { applyFinish } from '../../imaging/finish/applyFinish';
import { toFinish, type FlatPage } from '../../imaging/finish/pageLight';
import {
  flattenPage,
  limitLongSide,
  readShape,
  type FlatSize,
  type PageShape,
} from '../../imaging/flatten/flattenPage';
import { scaleLines, turnLines } from '../../imaging/flatten/pageLine';
import { turnBends } from '../../imaging/geometry/bentOutline';
import { scalePoint } from '../../imaging/geometry/point';
import { scaleQuad, turnQuad } from '../../imaging/geometry/quad';
import type { Mend } from '../../imaging/mend/mend';
import { mendPage } from '../../imaging/mend/mendPage';
import { blurOnPage } from '../../imaging/motion-blur/blurOnPage';
import { scaleReading } from '../../imaging/photo-reading/photoReading';
import type { PixelImage } from '../../imaging/raster/pixelImage';
import type { Recipe } from '../recipe/recipe';

/** How the page lies in its photo, turned as it is read. */
export function shapeOf(photo: FlatSize, { outline, quarterTurns, sheet, reading }: Recipe): PageShape {
  return readShape(turnQuad(outline.corners, quarterTurns), photo, {
    bends: turnBends(outline.bends, quarterTurns),
    lines: turnLines(outline.lines, quarterTurns),
    paper: sheet,
    focalRatio: reading.focalRatio,
  });
}

/** The page's size at the photo's full detail, turned as it is read. */
export const renderedSize = (photo: FlatSize, recipe: Recipe): FlatSize => shapeOf(photo, recipe).size;

export interface PrepareOptions {
  /** The flat page's long side at most; it is never larger than the photo's own detail. */
  readonly longSidePx: number;
  /** The original's size over that of the photo it is a copy of; 1, the default, for the photo itself. */
  readonly reduced?: number;
  /** Told how much of the laying flat is done, 0 to 1. */
  readonly onProgress?: (fraction: number) => void;
}

/**
 * Lays the page flat and mends it: what every finish of it begins with.
 * @param original - RGB, RGBA or grey, upright as to EXIF
 * @param recipe - in pixels of the original
 * @throws FotoplanError OUTLINE_DEGENERATE when three corners lie on one line
 */
export function preparePage(
  original: PixelImage,
  recipe: Recipe,
  { longSidePx, reduced = 1, onProgress }: PrepareOptions,
): FlatPage {
  const shape = shapeOf(original, recipe);
  const size = limitLongSide(shape.size, longSidePx);
  const { page, illumination } = mendPage(flattenPage(original, shape, size, onProgress), shape, recipe.mends);
  const { motionBlur } = recipe.reading;
  return {
    flat: page,
    detail: (reduced * size.height) / shape.size.height,
    motionBlur: motionBlur === null ? null : blurOnPage(motionBlur, shape, size),
    illumination,
  };
}

/**
 * Applies a recipe to its original: a function of the photo, the recipe, which holds what was read on the photo at its full
 * size, and the size asked for. A preview is the final page, smaller (twoSizes.test.ts says how nearly).
 * @param original - RGB, RGBA or grey, upright as to EXIF
 * @param longSidePx - the flat page's long side at most
 * @param mostLongSidePx - of what comes back: Press comes out in two levels, up to twice as large as the page
 * @returns RGB or grey, upright as the page is read
 * @throws FotoplanError OUTLINE_DEGENERATE when three corners lie on one line
 */
export const renderPage = (
  original: PixelImage,
  recipe: Recipe,
  longSidePx: number,
  mostLongSidePx?: number,
): PixelImage =>
  applyFinish(toFinish(preparePage(original, recipe, { longSidePx })), recipe.finish, recipe.light, mostLongSidePx);

/** The same recipe for a copy of the original that is this many times as large. */
export const scaleRecipe = (recipe: Recipe, factor: number): Recipe => ({
  ...recipe,
  reading: scaleReading(recipe.reading, factor),
  outline: {
    ...recipe.outline,
    corners: scaleQuad(recipe.outline.corners, factor),
    lines: scaleLines(recipe.outline.lines, factor),
  },
  mends: scaleMends(recipe.mends, factor),
});

/** The same brush strokes on a copy of the photo that is `factor` times as large. */
export const scaleMends = (mends: readonly Mend[], factor: number): Mend[] =>
  mends.map(({ points, radius }) => ({ points: points.map((p) => scalePoint(p, factor)), radius: radius * factor }));
