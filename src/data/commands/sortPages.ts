import { shownPages, type HandIn } from '../../../core/work/hand-in/handIn';
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
}
export function sortByTimeTaken(_: SortByTimeTaken, handIn: HandIn): Plan | null {
  const pages = shownPages(handIn);
  const timed = pages.filter(({ takenAtMs }) => takenAtMs !== null).sort((a, b) => a.takenAtMs! - b.takenAtMs!);
  return orderPlan(
    handIn,
    pages.map((page) => (page.takenAtMs === null ? page.id : timed.shift()!.id)),
    { key: 'sortByTime' },
  );
}
