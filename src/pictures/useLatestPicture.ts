import { useEffect, useRef, useState } from 'react';
import type { Page } from '../../core/handIn/handIn';
import type { Recipe } from '../../core/recipe/recipe';
import { loadOriginal } from './loadOriginal';
import type { PagePicture } from './usePagePicture';
import { previewWorker } from '../workers/pageWorkers';

/**
 * The page as a recipe that is still being changed would make it: always the latest one, with one picture under way at a
 * time, so that a drag never queues up work. Null until the first is done, or where it is not wanted.
 */
export function useLatestPicture(page: Page, recipe: Recipe, longSidePx: number, wanted: boolean): PagePicture | null {
  const [shown, setShown] = useState<PagePicture | null>(null);
  const latest = useRef<{ page: Page; recipe: Recipe } | null>(null);
  const busy = useRef(false);
  const gone = useRef(false);
  const url = useRef<string | null>(null);
  const key = JSON.stringify(recipe);
  useEffect(() => {
    gone.current = false;
    return () => {
      gone.current = true;
      if (url.current !== null) URL.revokeObjectURL(url.current);
    };
  }, []);
  useEffect(() => {
    if (!wanted) return;
    latest.current = { page, recipe };
    if (busy.current) return;
    busy.current = true;
    const drain = async (): Promise<void> => {
      while (latest.current !== null && !gone.current) {
        const next = latest.current;
        latest.current = null;
        const { picture, width, height } = await previewWorker.run({ kind: 'render', original: await loadOriginal(next.page), recipe: next.recipe, longSidePx });
        if (gone.current) return;
        if (url.current !== null) URL.revokeObjectURL(url.current);
        url.current = URL.createObjectURL(picture);
        setShown({ url: url.current, width, height });
      }
    };
    void drain().catch(() => undefined).finally(() => (busy.current = false));
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the key stands for the recipe
  }, [key, page.originalId, wanted]);
  return shown;
}
