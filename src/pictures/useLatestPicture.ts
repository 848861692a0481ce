import { useEffect, useRef, useState } from 'react';
import type { Page } from '../../core/handIn/handIn';
import type { Recipe } from '../../core/recipe/recipe';
import { loadOriginal } from './loadOriginal';
import { previewWorker } from '../workers/pageWorkers';

/**
 * The page as a recipe that is still being changed would make it: always the latest one, with one picture under way at a
 * time, so that a drag never queues up work. Null until the first is done, or where it is not wanted.
 */
export function useLatestPicture(page: Page, recipe: Recipe, longSidePx: number, wanted: boolean): ImageBitmap | null {
  const [shown, setShown] = useState<ImageBitmap | null>(null);
  const latest = useRef<{ page: Page; recipe: Recipe } | null>(null);
  const busy = useRef(false);
  const gone = useRef(false);
  const drawn = useRef<ImageBitmap | null>(null);
  const key = JSON.stringify(recipe);
  useEffect(() => {
    gone.current = false;
    return () => {
      gone.current = true;
      drawn.current?.close();
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
        const bitmap = await previewWorker.run({ kind: 'draw', original: await loadOriginal(next.page), recipe: next.recipe, longSidePx });
        if (gone.current) return bitmap.close();
        drawn.current?.close();
        drawn.current = bitmap;
        setShown(bitmap);
      }
    };
    void drain().catch(() => undefined).finally(() => (busy.current = false));
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the key stands for the recipe
  }, [key, page.originalId, wanted]);
  return shown;
}
