import { shownPages, type HandIn } from '../../core/handIn/handIn';
import { pendingRecipe, usualFinish } from '../../core/recipe/plainRecipe';
import type { PageKind, Recipe } from '../../core/recipe/recipe';

/**
 * The recipe of a photo not looked at yet: a new page is lit like the last of its kind in the hand-in; the first as suits it.
 * @param width - of the upright photo in px, as height
 */
export function newPageRecipe(handIn: HandIn | undefined, width: number, height: number, kind: PageKind): Recipe {
  const before =
    handIn === undefined
      ? undefined
      : shownPages(handIn).findLast((page) => page.recipe.kind === kind && page.pdfPage === null);
  const recipe = pendingRecipe(width, height, before?.recipe.finish ?? usualFinish(kind), kind);
  return before === undefined ? recipe : { ...recipe, light: before.recipe.light };
}
