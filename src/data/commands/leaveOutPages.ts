import type { HandIn } from '../../../core/work/hand-in/handIn';
import { pagesOf, undoable, type Plan } from './plan';

/** Leaves pages out of the file, or includes them again. */
export interface LeaveOutPages {
  readonly kind: 'leaveOutPages';
  readonly handInId: string;
  readonly pageIds: readonly string[];
  readonly leftOut: boolean;
}

export function leaveOutPages({ handInId, pageIds, leftOut }: LeaveOutPages, handIn: HandIn): Plan {
  const pages = pagesOf(handIn, pageIds);
  return undoable(
    { key: leftOut ? 'leaveOut' : 'include', count: pages.length },
    pages.map(({ id: pageId }) => ({ kind: 'leaveOut', handInId, pageId, leftOut })),
    pages.map(({ id: pageId, leftOut: before }) => ({ kind: 'leaveOut', handInId, pageId, leftOut: before })),
  );
}
