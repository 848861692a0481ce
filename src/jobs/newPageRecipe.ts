import { shownPages, type HandIn } from '../../core/work/hand-in/handIn';
import { pendingRecipe, usualFinish } from '../../core/work/recipe/plainRecipe';
import type { Recipe } from '../../core/work/recipe/recipe';
import type { PageKind } from '../../core/work/paper/pageKind';

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
