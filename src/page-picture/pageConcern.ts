import { t } from '@lingui/core/macro';
import type { Page } from '../../core/work/hand-in/handIn';
import { isPending, needsEdgeCheck, needsTurnCheck } from '../../core/work/recipe/recipe';
import { FINDING_WORDS } from './findingText';

/** In a few words what wants a look on a page: first what only the person can decide, then what is wrong with the shot. */
export function pageConcern({ recipe, findings }: Page): string | null {
  if (isPending(recipe)) return null;
  if (needsEdgeCheck(recipe)) return t`check edges`;
  if (needsTurnCheck(recipe)) return t`which way up?`;
  const worst = findings?.[0];
  return worst === undefined ? null : t(FINDING_WORDS[worst]);
}
