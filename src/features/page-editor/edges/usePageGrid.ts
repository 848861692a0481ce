import { useEffect, useState } from 'react';
import type { Page } from '../../../../core/work/hand-in/handIn';
import type { Recipe } from '../../../../core/work/recipe/recipe';
import { useEngine } from '../../../engine/useEngine';
import type { GridResult } from '../../../jobs/jobProtocol';

/** Nothing is worked out while a hand still moves, ms. */
const STILL_MS = 120;

/** How the page lies by a recipe, as a grid over its photo in px of it; null while that is worked out, and where it is not wanted. */
export function usePageGrid({ width, height }: Page, recipe: Recipe, wanted: boolean): GridResult | null {
  const { scheduler } = useEngine();
  const [known, setKnown] = useState<{ readonly key: string; readonly lines: GridResult } | null>(null);
  const key = JSON.stringify([recipe.outline, recipe.sheet, recipe.quarterTurns]);
  useEffect(() => {
    if (!wanted) return undefined;
    let gone = false;
    const timer = setTimeout(() => {
      scheduler.run({ kind: 'grid', photo: { width, height }, recipe }, { priority: 'hand' }).then(
        (lines) => {
          if (!gone) setKnown({ key, lines });
        },
        // corners that make no page have no grid; the sentence beside them says so
        () => undefined,
      );
    }, STILL_MS);
    return () => {
      gone = true;
      clearTimeout(timer);
    };
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the key stands for the recipe
  }, [key, wanted]);
  return wanted && known?.key === key ? known.lines : null;
}
