import { useEffect, useRef, useState } from 'react';
import type { Page } from '../../core/work/hand-in/handIn';
import type { Recipe } from '../../core/work/recipe/recipe';
import { useEngine } from '../engine/useEngine';

const HAND = { priority: 'hand' } as const;

interface Drawn {
  readonly bitmap: ImageBitmap;
  /** The page and the recipe it shows. */
  readonly key: string;
  /** Drawn, or still there, when nothing was wanted any more: it stands for nothing but its own recipe. */
  readonly past: boolean;
}

const keyOf = ({ originalId, pdfPage }: Page, recipe: Recipe): string =>
  `${originalId} ${pdfPage ?? ''} ${JSON.stringify(recipe)}`;

/**
 * The page as a recipe that is still being changed would make it: always the latest one, with one picture under way at a
 * time, so that a drag never queues up work. Null until the first is done; where it is no longer wanted, null unless it
 * shows this very recipe.
 */
export function useLatestPicture(page: Page, recipe: Recipe, longSidePx: number, wanted: boolean): ImageBitmap | null {
  const { small, scheduler } = useEngine();
  const [shown, setShown] = useState<Drawn | null>(null);
  const latest = useRef<{ page: Page; recipe: Recipe } | null>(null);
  const busy = useRef(false);
  const gone = useRef(false);
  const following = useRef(false);
  const kept = useRef<ImageBitmap | null>(null);
  const key = keyOf(page, recipe);
  useEffect(() => {
    gone.current = false;
    return () => {
      gone.current = true;
      kept.current?.close();
    };
  }, []);
  useEffect(() => {
    following.current = wanted;
    if (!wanted) {
      setShown((drawn) => (drawn === null || drawn.past ? drawn : { ...drawn, past: true }));
      return;
    }
    latest.current = { page, recipe };
    if (busy.current) return;
    busy.current = true;
    const drain = async (): Promise<void> => {
      while (latest.current !== null && !gone.current) {
        const next = latest.current;
        latest.current = null;
        const bitmap = await scheduler.run(
          {
            kind: 'draw',
            original: await small.source(next.page, longSidePx, 'hand'),
            recipe: next.recipe,
            longSidePx,
          },
          HAND,
        );
        if (gone.current) return bitmap.close();
        kept.current?.close();
        kept.current = bitmap;
        setShown({ bitmap, key: keyOf(next.page, next.recipe), past: !following.current });
      }
    };
    void drain()
      .catch(() => undefined)
      .finally(() => (busy.current = false));
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the key stands for page and recipe
  }, [key, wanted]);
  return shown !== null && (shown.key === key || (wanted && !shown.past)) ? shown.bitmap : null;
}
