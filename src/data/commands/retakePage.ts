import type { HandIn } from '../../../core/work/hand-in/handIn';
import { sourceOfPage, type PageSource } from '../../../core/work/hand-in/operation';
import { undoable, type Plan } from './plan';

/** Puts another shot in a page's place. */
export interface RetakePage {
  readonly kind: 'retakePage';
  readonly handInId: string;
  readonly pageId: string;
  readonly source: PageSource;
}

export function retakePage({ handInId, pageId, source }: RetakePage, handIn: HandIn): Plan | null {
  const page = handIn.pages.find(({ id }) => id === pageId);
  if (page === undefined) return null;
  return undoable(
    { key: 'retake' },
    [{ kind: 'replaceOriginal', handInId, pageId, ...source }],
    [{ kind: 'replaceOriginal', handInId, pageId, ...sourceOfPage(page) }],
  );
}
