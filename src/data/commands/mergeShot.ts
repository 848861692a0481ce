import type { HandIn } from '../../../core/work/hand-in/handIn';
import type { PageSource } from '../../../core/work/hand-in/operation';
import type { Plan } from './plan';

/** Puts the merged frames of a shot in the place of its single frame, unless that was deleted or retaken meanwhile. */
export interface MergeShot {
  readonly kind: 'mergeShot';
  readonly handInId: string;
  readonly pageId: string;
  readonly singleId: string;
  readonly source: PageSource;
}

export function mergeShot({ handInId, pageId, singleId, source }: MergeShot, handIn: HandIn): Plan | null {
  const page = handIn.pages.find(({ id }) => id === pageId);
  return page === undefined || page.removedAtMs !== null || page.originalId !== singleId
    ? null
    : { changes: [{ kind: 'replaceOriginal', handInId, pageId, ...source }] };
}
