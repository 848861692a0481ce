import { t } from '@lingui/core/macro';
import { useEffect, useState } from 'react';
import type { Page } from '../../core/work/hand-in/handIn';
import type { Recipe } from '../../core/work/recipe/recipe';
import { useEngine } from '../engine/useEngine';
import type { PagePicture } from '../jobs/pagePictures';
import { errorText } from '../i18n/errorText';

export type PagePictureState =
  | { readonly state: 'working' }
  /** `current` where it shows the recipe asked for, and not yet the one before. */
  | { readonly state: 'ready'; readonly picture: PagePicture; readonly current: boolean }
  | { readonly state: 'failed'; readonly problem: string };

/**
 * The page as its recipe makes it, or with recipe null the upright photo itself. While a changed recipe is being worked
 * on, the picture before it stays. Work that nobody waits for any more is dropped.
 * @param wanted - false leaves it alone for now
 */
export function usePagePicture(page: Page, recipe: Recipe | null, longSidePx: number, wanted = true): PagePictureState {
  const { pictures } = useEngine();
  const key = pictures.keyOf(page, recipe, longSidePx);
  const [shown, setShown] = useState<PagePicture | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  useEffect(() => {
    if (!wanted) return;
    const stopper = new AbortController();
    const at = pictures.hold(key);
    if (at !== null) setShown(at);
    else {
      setProblem(null);
      pictures.load(page, recipe, longSidePx, { priority: 'visible', signal: stopper.signal }).then(
        (picture) => (stopper.signal.aborted ? pictures.release(picture.key) : setShown(picture)),
        (error: unknown) =>
          stopper.signal.aborted || setProblem(errorText(error, t`This page cannot be shown. Reload and try again.`)),
      );
    }
    return () => stopper.abort();
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the key stands for page, recipe and size
  }, [key, wanted, pictures]);
  // a picture is held for as long as it is shown, and let go once another is
  const shownKey = shown?.key;
  useEffect(() => (shownKey === undefined ? undefined : () => pictures.release(shownKey)), [shownKey, pictures]);
  if (shown !== null) return { state: 'ready', picture: shown, current: shown.key === key };
  return problem === null ? { state: 'working' } : { state: 'failed', problem };
}
