import type { HandIn } from '../../../core/work/hand-in/handIn';
import type { Recipe } from '../../../core/work/recipe/recipe';
import type { StepLabel } from '../stepLabel';
import { pagesOf, type Plan } from './plan';
import { recipesPlan } from './setRecipe';

/** One finish on some pages, and one light; null keeps what each has. */
export interface SetLight {
  readonly kind: 'setLight';
  readonly handInId: string;
  readonly pageIds: readonly string[];
  readonly finish: Recipe['finish'];
  readonly light: Recipe['light'] | null;
  readonly label: StepLabel;
}

export const setLight = ({ pageIds, finish, light, label }: SetLight, handIn: HandIn): Plan | null =>
  recipesPlan(
    handIn.id,
    pagesOf(handIn, pageIds),
    (recipe) => ({ ...recipe, finish, light: light ?? recipe.light }),
    label,
  );
