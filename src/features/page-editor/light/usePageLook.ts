import { useEffect, useState } from 'react';
import type { Page } from '../../../../core/work/hand-in/handIn';
import { isPending } from '../../../../core/work/recipe/recipe';
import { useEngine } from '../../../engine/useEngine';
import type { LookResult } from '../../../jobs/jobProtocol';
import { shapeKey } from '../../../jobs/pageKey';

const LOOK_FROM_PX = 1000;

/** What a look at the flat page suggests; null until it has been looked at, or where that is not wanted. */
export function usePageLook(page: Page, wanted: boolean): LookResult | null {
  const { small, scheduler } = useEngine();
  const [seen, setSeen] = useState<{ readonly key: string; readonly result: LookResult } | null>(null);
  const key = shapeKey(page);
  const ready = wanted && !isPending(page.recipe);
  useEffect(() => {
    if (!ready || seen?.key === key) return;
    const stopper = new AbortController();
    // the picture itself comes first; a suggestion that does not come costs nobody anything
    const options = { priority: 'idle', signal: stopper.signal } as const;
    small
      .source(page, LOOK_FROM_PX, 'idle')
      .then((original) => scheduler.run({ kind: 'look', original, recipe: page.recipe }, options))
      .then((result) => stopper.signal.aborted || setSeen({ key, result }))
      .catch(() => undefined);
    return () => stopper.abort();
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the key stands for the page
  }, [key, ready]);
  return seen?.key === key ? seen.result : null;
}
