import { FotoplanError } from '../../errors';
import { fillGlare, type FilledPhoto } from '../../imaging/fuse/fillGlare';
import type { PixelImage } from '../../imaging/raster/pixelImage';
import type { Recipe } from '../recipe/recipe';
import { shapeOf } from '../render/renderPage';
import { startRecipes } from './startRecipe';

/** A photo and how its page lies in it. */
export interface FirstPhoto {
  readonly photo: PixelImage;
  readonly recipe: Recipe;
}

/**
 * Fills the reflections on a page from a second photo of it, in which the page is looked for anew, whichever way up it was shot.
 * @param focalRatio - the second's focal length over its long side as its file tells it, or null
 * @returns the first photo, filled: its recipe holds for it as it is
 * @throws FotoplanError SECOND_SHOT_UNLIKE where it does not show the same page, SECOND_SHOT_SHINES where it shows nothing
 *   that the first does not
 */
export function fillFromSecond(first: FirstPhoto, photo: PixelImage, focalRatio: number | null): FilledPhoto {
  const page = { photo: first.photo, shape: shapeOf(first.photo, first.recipe) };
  const [found] = startRecipes(photo, { finish: 'asshot', kind: first.recipe.kind, focalRatio });
  for (const turn of [0, 1, 2, 3]) {
    const quarterTurns = ((found.quarterTurns + turn) % 4) as Recipe['quarterTurns'];
    const filled = fillGlare(page, { photo, shape: shapeOf(photo, { ...found, quarterTurns }) });
    if (filled === null) continue;
    if (filled.filledShare > 0) return filled;
    throw new FotoplanError(
      'SECOND_SHOT_SHINES',
      'The second photo shines at the same place. Move further to the side, or away from the lamp, and shoot once more.',
    );
  }
  throw new FotoplanError(
    'SECOND_SHOT_UNLIKE',
    'The second photo does not show the same page. Shoot the whole page again, from a little further to the side.',
  );
}
