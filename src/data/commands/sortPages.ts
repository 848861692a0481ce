import { shownPages, type HandIn, type Page } from '../../../core/work/hand-in/handIn';
import { orderPlan, shownIds } from './orderPages';
import type { Plan } from './plan';

/** Lays the pages in the reverse order. */
export interface ReverseOrder {
  readonly kind: 'reverseOrder';
  readonly handInId: string;
}
export const reverseOrder = (_: ReverseOrder, handIn: HandIn): Plan | null =>
  orderPlan(handIn, [...shownIds(handIn)].reverse(), { key: 'reverse' });

/** By when they were taken; pages whose files do not tell keep their place among the others. */
export interface SortByTimeTaken {
  readonly kind: 'sortByTimeTaken';
  readonly handInId: string;
  /** Only these, among themselves; left out: all. */
  readonly pageIds?: readonly string[];
}
export function sortByTimeTaken({ pageIds }: SortByTimeTaken, handIn: HandIn): Plan | null {
  const pages = shownPages(handIn);
  const isSorted = ({ id, takenAtMs }: Page): boolean =>
    takenAtMs !== null && (pageIds === undefined || pageIds.includes(id));
  const timed = pages.filter(isSorted).sort((a, b) => a.takenAtMs! - b.takenAtMs!);
  return orderPlan(
    handIn,
    pages.map((page) => (isSorted(page) ? timed.shift()!.id : page.id)),
    { key: 'sortByTime' },
  );
}
