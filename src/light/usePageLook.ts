import { useEffect, useState } from 'react';
import type { Page } from '../../core/handIn/handIn';
import { isPending } from '../../core/recipe/recipe';
import { loadOriginal } from '../pictures/loadOriginal';
import type { LookResult } from '../workers/pageWorkerProtocol';
import { previewWorker } from '../workers/pageWorkers';

const LOOK_AFTER_MS = 700;

/** What a look at the flat page suggests; null until it has been looked at, or where that is not wanted. */
export function usePageLook(page: Page, wanted: boolean): LookResult | null {
  const [seen, setSeen] = useState<{ readonly key: string; readonly result: LookResult } | null>(null);
  const { outline, mends, quarterTurns } = page.recipe;
  const key = JSON.stringify([page.originalId, page.pdfPage, outline.corners, outline.bends, mends, quarterTurns]);
  const ready = wanted && !isPending(page.recipe);
  useEffect(() => {
    if (!ready || seen?.key === key) return;
    let current = true;
    // a suggestion that does not come costs nobody anything
    const look = (): void =>
      void loadOriginal(page)
        .then((original) => previewWorker.run({ kind: 'look', original, recipe: page.recipe }))
        .then((result) => current && setSeen({ key, result }))
        .catch(() => undefined);
    // the picture itself comes first
    const later = setTimeout(look, LOOK_AFTER_MS);
    return () => {
      current = false;
      clearTimeout(later);
    };
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the key stands for the page
  }, [key, ready]);
  return seen?.key === key ? seen.result : null;
}
