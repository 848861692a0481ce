import { detectOutline, type DetectedOutline } from '../../imaging/detect/detectOutline';
import { ALL_STRAIGHT } from '../../imaging/geometry/bentOutline';
import { wholePicture } from '../../imaging/geometry/quad';
import type { PixelImage } from '../../imaging/raster/pixelImage';
import { outlineProblem, type Recipe } from '../recipe/recipe';
import { recipeFromOutline, type StartOptions } from './recipeFromOutline';
import { spreadRecipes } from './spreadRecipes';

/**
 * The recipes a new photo begins with: its paper's outline where one is found, else the whole photo marked as unsure. One
 * for each page that it shows: two for a spread, in reading order, else one.
 * @param photo - RGB or RGBA, upright as to EXIF
 */
export function startRecipes(photo: PixelImage, options: StartOptions): readonly [Recipe, ...Recipe[]] {
  const found = usable(detectOutline(photo), photo);
  const outline = found ?? { quad: wholePicture(photo.width, photo.height), bends: ALL_STRAIGHT, confidence: 0 };
  return options.kind === 'spread'
    ? spreadRecipes(photo, outline, options)
    : [recipeFromOutline(photo, outline, options)];
}

const usable = (found: DetectedOutline | null, { width, height }: PixelImage): DetectedOutline | null =>
  found === null || outlineProblem(found.quad, width, height, found.bends) !== null ? null : found;
