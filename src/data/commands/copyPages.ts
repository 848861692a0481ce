import type { HandIn } from '../../../core/work/hand-in/handIn';
import { sourceOfPage } from '../../../core/work/hand-in/operation';
import type { Change } from '../change';
import { pagesOf, type Plan } from './plan';

/** Lays a copy of each page behind it. */
export interface DuplicatePages {
  readonly kind: 'duplicatePages';
  readonly handInId: string;
  readonly pageIds: readonly string[];
}

export function duplicatePages({ handInId, pageIds }: DuplicatePages, handIn: HandIn, newId: () => string): Plan {
  const copies = pagesOf(handIn, pageIds).map((page) => ({ page, pageId: newId() }));
  const all = (kind: 'restorePage' | 'removePage'): Change[] =>
    copies.map(({ pageId }) => ({ kind, handInId, pageId }));
  return {
    changes: copies.map(({ page, pageId }) => ({
      kind: 'addPage',
      handInId,
      pageId,
      ...sourceOfPage(page),
      afterPageId: page.id,
    })),
    step: {
      label: { key: 'duplicate', count: copies.length },
      forward: all('restorePage'),
      inverse: all('removePage'),
    },
  };
}

/** Lays copies of pages at the end of another hand-in, and deletes them here where they are to move. */
export interface SendPages {
  readonly kind: 'sendPages';
  readonly handInId: string;
  readonly pageIds: readonly string[];
  readonly toId: string;
  readonly keepHere: boolean;
}

export function sendPages({ handInId, pageIds, toId, keepHere }: SendPages, handIn: HandIn, newId: () => string): Plan {
  const copies = pagesOf(handIn, pageIds).map((page) => ({ page, pageId: newId() }));
  const there = (kind: 'restorePage' | 'removePage'): Change[] =>
    copies.map(({ pageId }) => ({ kind, handInId: toId, pageId }));
  const here = (kind: 'restorePage' | 'removePage'): Change[] =>
    keepHere ? [] : copies.map(({ page }) => ({ kind, handInId, pageId: page.id }));
  return {
    changes: [
      ...copies.map(({ page, pageId }): Change => ({ kind: 'addPage', handInId: toId, pageId, ...sourceOfPage(page) })),
      ...here('removePage'),
    ],
    step: {
      label: { key: keepHere ? 'copyTo' : 'moveTo', count: copies.length },
      forward: [...there('restorePage'), ...here('removePage')],
      inverse: [...there('removePage'), ...here('restorePage')],
    },
  };
}
