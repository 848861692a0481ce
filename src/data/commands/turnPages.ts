import type { HandIn } from '../../../core/work/hand-in/handIn';
import { turnRecipe } from '../../../core/work/recipe/recipe';
import { pagesOf, type Plan } from './plan';
import { recipesPlan } from './setRecipe';

/** Rotates pages clockwise by quarter turns. */
export interface TurnPages {
  readonly kind: 'turnPages';
  readonly handInId: string;
  readonly pageIds: readonly string[];
  readonly turns: 1 | 2 | 3;
}

export const turnPages = ({ pageIds, turns }: TurnPages, handIn: HandIn): Plan | null =>
  recipesPlan(handIn.id, pagesOf(handIn, pageIds), (recipe) => turnRecipe(recipe, turns), {
    key: 'rotate',
    count: pageIds.length,
  });
