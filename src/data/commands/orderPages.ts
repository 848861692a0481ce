import { shownPages, type HandIn } from '../../../core/work/hand-in/handIn';
import type { StepLabel } from '../stepLabel';
import { undoable, type Plan } from './plan';

/** Lays all pages in a new order; deleted ones stay behind the page they were behind. */
export interface OrderPages {
  readonly kind: 'orderPages';
  readonly handInId: string;
  readonly pageIds: readonly string[];
  readonly label: StepLabel;
}

export const orderPages = ({ pageIds, label }: OrderPages, handIn: HandIn): Plan | null =>
  orderPlan(handIn, pageIds, label);

/** @param after - the ids of the pages that are there, in their new order */
export function orderPlan(handIn: HandIn, after: readonly string[], label: StepLabel): Plan | null {
  if (after.join() === shownIds(handIn).join()) return null;
  return undoable(
    label,
    [{ kind: 'orderPages', handInId: handIn.id, pageIds: after }],
    [{ kind: 'orderPages', handInId: handIn.id, pageIds: handIn.pages.map(({ id }) => id) }],
  );
}

export const shownIds = (handIn: HandIn): readonly string[] => shownPages(handIn).map(({ id }) => id);
