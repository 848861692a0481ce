import type { HandIn } from '../../../core/work/hand-in/handIn';
import type { PageSource } from '../../../core/work/hand-in/operation';
import type { Plan } from './plan';

/** Adds a page at the end or behind another; pages of one group are one step. */
export interface AddPage {
  readonly kind: 'addPage';
  readonly handInId: string;
  readonly pageId: string;
  readonly source: PageSource;
  readonly afterPageId?: string;
  readonly group?: string;
}

export function addPage({ handInId, pageId, source, afterPageId, group }: AddPage, handIn: HandIn): Plan {
  // the end is named by the page there: one that is held back on its way up then still comes to stand where it was added
  const after = afterPageId ?? handIn.pages.at(-1)?.id ?? null;
  return {
    changes: [{ kind: 'addPage', handInId, pageId, ...source, afterPageId: after }],
    step: {
      label: { key: group === undefined ? 'addPage' : 'addPages' },
      // doing it again finds the page still there, only deleted
      forward: [{ kind: 'restorePage', handInId, pageId }],
      inverse: [{ kind: 'removePage', handInId, pageId }],
      ...(group === undefined ? {} : { group }),
    },
  };
}
