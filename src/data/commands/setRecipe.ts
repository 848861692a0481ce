import type { HandIn, Page } from '../../../core/work/hand-in/handIn';
import { changedFields, withFields, type Recipe } from '../../../core/work/recipe/recipe';
import type { StepLabel } from '../stepLabel';
import { undoable, type Plan } from './plan';

/** Sets what a person changed of a page's recipe: where `to` differs from `from`, which is what they saw. */
export interface SetRecipe {
  readonly kind: 'setRecipe';
  readonly handInId: string;
  readonly pageId: string;
  readonly from: Recipe;
  readonly to: Recipe;
  readonly label: StepLabel;
}

export function setRecipe({ pageId, from, to, label }: SetRecipe, handIn: HandIn): Plan | null {
  const page = handIn.pages.find(({ id }) => id === pageId);
  return page === undefined
    ? null
    : recipesPlan(handIn.id, [page], (recipe) => withFields(recipe, to, changedFields(from, to)), label);
}

/** New recipes for some pages, as one step; only the fields that differ are sent. */
export function recipesPlan(
  handInId: string,
  pages: readonly Page[],
  recipeOf: (recipe: Recipe) => Recipe,
  label: StepLabel,
): Plan | null {
  const edits = pages.flatMap(({ id: pageId, recipe: before }) => {
    const after = recipeOf(before);
    const fields = changedFields(before, after);
    return fields.length === 0 ? [] : [{ pageId, before, after, fields }];
  });
  if (edits.length === 0) return null;
  return undoable(
    label,
    edits.map(({ pageId, after: recipe, fields }) => ({ kind: 'setRecipe', handInId, pageId, recipe, fields })),
    edits.map(({ pageId, before: recipe, fields }) => ({ kind: 'setRecipe', handInId, pageId, recipe, fields })),
  );
}
