import { detectOutline } from '../detect/detectOutline';
import type { Finish } from '../finish/applyFinish';
import { wholePicture } from '../geometry/quad';
import type { PixelImage } from '../raster/pixelImage';
import { outlineProblem, RECIPE_VERSION, type Recipe } from './recipe';

/** The recipe of the whole photo, untouched but for its finish. */
export function wholePhotoRecipe(width: number, height: number, finish: Finish): Recipe {
  return { version: RECIPE_VERSION, outline: { corners: wholePicture(width, height), by: 'whole', confidence: 1 }, quarterTurns: 0, finish };
}

/**
 * The recipe a new photo begins with: its paper's outline where one is found, else the whole photo marked as unsure.
 * @param photo - RGB or RGBA, upright as to EXIF
 */
export function startRecipe(photo: PixelImage, finish: Finish): Recipe {
  const found = detectOutline(photo);
  if (found === null || outlineProblem(found.quad, photo.width, photo.height) !== null) {
    const whole = wholePhotoRecipe(photo.width, photo.height, finish);
    return { ...whole, outline: { ...whole.outline, by: 'found', confidence: 0 } };
  }
  return { version: RECIPE_VERSION, outline: { corners: found.quad, by: 'found', confidence: found.confidence }, quarterTurns: 0, finish };
}
