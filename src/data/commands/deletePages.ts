import type { HandIn } from '../../../core/work/hand-in/handIn';
import type { Change } from '../change';
import { pagesOf, undoable, type Plan } from './plan';

/** Deletes pages; they can be restored for 30 days. */
export interface DeletePages {
  readonly kind: 'deletePages';
  readonly handInId: string;
  readonly pageIds: readonly string[];
}
/** Brings deleted pages back to where they were. */
export interface RestorePages {
  readonly kind: 'restorePages';
  readonly handInId: string;
  readonly pageIds: readonly string[];
}
/** Deletes pages so that they cannot be restored. */
export interface DeletePagesForGood {
  readonly kind: 'deletePagesForGood';
  readonly handInId: string;
  readonly pageIds: readonly string[];
}

const each = (
  kind: 'removePage' | 'restorePage' | 'deletePage',
  handInId: string,
  pageIds: readonly string[],
): Change[] => pageIds.map((pageId) => ({ kind, handInId, pageId }));

export function deletePages({ handInId, pageIds }: DeletePages, handIn: HandIn): Plan {
  const ids = pagesOf(handIn, pageIds)
    .filter(({ removedAtMs }) => removedAtMs === null)
    .map(({ id }) => id);
  return undoable(
    { key: 'deletePages', count: ids.length },
    each('removePage', handInId, ids),
    each('restorePage', handInId, ids),
  );
}

export function restorePages({ handInId, pageIds }: RestorePages, handIn: HandIn): Plan {
  const ids = pagesOf(handIn, pageIds)
    .filter(({ removedAtMs }) => removedAtMs !== null)
    .map(({ id }) => id);
  return undoable(
    { key: 'restorePages', count: ids.length },
    each('restorePage', handInId, ids),
    each('removePage', handInId, ids),
  );
}

export const deletePagesForGood = ({ handInId, pageIds }: DeletePagesForGood, handIn: HandIn): Plan => ({
  changes: each(
    'deletePage',
    handInId,
    pagesOf(handIn, pageIds).map(({ id }) => id),
  ),
});
