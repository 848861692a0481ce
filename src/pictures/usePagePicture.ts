import { useEffect, useState } from 'react';
import { FotoplanError } from '../../core/errors';
import type { Page } from '../../core/handIn/handIn';
import type { Recipe } from '../../core/recipe/recipe';
import { previewWorker } from '../workers/pageWorkers';
import { loadOriginal } from './loadOriginal';

export interface PagePicture {
  readonly url: string;
  readonly width: number;
  readonly height: number;
}

export type PagePictureState =
  | { readonly state: 'working' }
  /** `current` where it shows the recipe asked for, and not yet the one before. */
  | { readonly state: 'ready'; readonly picture: PagePicture; readonly current: boolean }
  | { readonly state: 'failed'; readonly problem: string };

const KEPT = 240;
/** Pictures longer than this are megabytes each: only the last few stay. */
const LARGE_PX = 2000;
const LARGE_KEPT = 4;
/** Finished pictures by what they show; a rendered picture may be thrown away at any time. */
const finished = new Map<string, PagePicture>();
const underWay = new Map<string, Promise<PagePicture>>();

/** Throws the oldest away until no more than these are left of those meant. */
function forgetOldest(most: number, meant: (picture: PagePicture) => boolean): void {
  const kept = [...finished].filter(([, picture]) => meant(picture));
  for (const [key, { url }] of kept.slice(0, Math.max(0, kept.length - most))) {
    finished.delete(key);
    URL.revokeObjectURL(url);
  }
}

function keep(key: string, picture: PagePicture): PagePicture {
  finished.set(key, picture);
  const isLarge = ({ width, height }: PagePicture): boolean => Math.max(width, height) > LARGE_PX;
  forgetOldest(KEPT, () => true);
  forgetOldest(LARGE_KEPT, isLarge);
  return picture;
}

function request(key: string, page: Page, recipe: Recipe | null, longSidePx: number): Promise<PagePicture> {
  let promise = underWay.get(key);
  if (promise === undefined) {
    promise = loadOriginal(page)
      .then((original) => previewWorker.run({ kind: 'render', original, recipe, longSidePx }))
      .then(({ picture, width, height }) => keep(key, { url: URL.createObjectURL(picture), width, height }))
      .finally(() => underWay.delete(key));
    underWay.set(key, promise);
  }
  return promise;
}

/** Marks lie on top as vectors: they make no other picture. */
const withoutMarks = (recipe: Recipe | null): Recipe | null => (recipe === null ? null : { ...recipe, marks: [] });

/**
 * The page as its recipe makes it, or with recipe null the upright photo itself. While a changed recipe is being worked
 * on, the picture before it stays.
 * @param wanted - false leaves it alone for now
 */
export function usePagePicture(page: Page, recipe: Recipe | null, longSidePx: number, wanted = true): PagePictureState {
  const key = `${page.originalId} ${page.pdfPage ?? ''} ${longSidePx} ${JSON.stringify(withoutMarks(recipe))}`;
  const [shown, setShown] = useState<Exclude<PagePictureState, { state: 'ready' }> | { readonly state: 'ready'; readonly picture: PagePicture; readonly key: string }>(() => {
    const kept = finished.get(key);
    return kept === undefined ? { state: 'working' } : { state: 'ready', picture: kept, key };
  });
  useEffect(() => {
    if (!wanted) return;
    const kept = finished.get(key);
    if (kept !== undefined) {
      setShown({ state: 'ready', picture: kept, key });
      return;
    }
    let current = true;
    request(key, page, recipe, longSidePx).then(
      (picture) => current && setShown({ state: 'ready', picture, key }),
      (error: unknown) => current && setShown({ state: 'failed', problem: error instanceof FotoplanError ? error.message : 'This page cannot be shown. Reload and try again.' }),
    );
    return () => {
      current = false;
    };
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the key stands for page, recipe and size
  }, [key, wanted]);
  return shown.state === 'ready' ? { state: 'ready', picture: shown.picture, current: shown.key === key } : shown;
}
