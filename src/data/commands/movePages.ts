import type { HandIn } from '../../../core/work/hand-in/handIn';
import { setDown } from '../../../core/work/hand-in/operation';
import { orderPlan, shownIds } from './orderPages';
import type { Plan } from './plan';

/** Moves pages together to where another page lies; `lifted` is the one of them that was taken hold of. */
export interface MovePages {
  readonly kind: 'movePages';
  readonly handInId: string;
  readonly pageIds: readonly string[];
  readonly lifted: string;
  readonly over: string;
}
export const movePages = ({ pageIds, lifted, over }: MovePages, handIn: HandIn): Plan | null =>
  orderPlan(handIn, setDown(shownIds(handIn), pageIds, lifted, over), { key: 'move', count: pageIds.length });

/** Moves pages so that the first of them has this number, counted among all that are there. */
export interface MovePagesTo {
  readonly kind: 'movePagesTo';
  readonly handInId: string;
  readonly pageIds: readonly string[];
  readonly number: number;
}
export function movePagesTo({ pageIds, number }: MovePagesTo, handIn: HandIn): Plan | null {
  const ids = shownIds(handIn);
  const rest = ids.filter((id) => !pageIds.includes(id));
  const at = Math.min(rest.length, Math.max(0, number - 1));
  return orderPlan(handIn, [...rest.slice(0, at), ...ids.filter((id) => pageIds.includes(id)), ...rest.slice(at)], {
    key: 'move',
    count: pageIds.length,
  });
}

/** Moves a page by one place: -1 earlier, 1 later. */
export interface MovePageBy {
  readonly kind: 'movePageBy';
  readonly handInId: string;
  readonly pageId: string;
  readonly by: -1 | 1;
}
export function movePageBy({ pageId, by }: MovePageBy, handIn: HandIn): Plan | null {
  const ids = shownIds(handIn);
  const over = ids[ids.indexOf(pageId) + by];
  return over === undefined ? null : orderPlan(handIn, setDown(ids, [pageId], pageId, over), { key: 'move' });
}
