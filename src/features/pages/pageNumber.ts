import { t } from '@lingui/core/macro';
import { boundPages, shownPages, type HandIn } from '../../../core/work/hand-in/handIn';

/** Numbers in the file by page; a page that is left out has none. */
export const pageNumbers = (handIn: HandIn): ReadonlyMap<string, number> =>
  new Map(boundPages(handIn).map(({ id }, i) => [id, i + 1]));

/** Where a page stands, in words. */
export function pageHeading(handIn: HandIn, pageId: string): string {
  const number = pageNumbers(handIn).get(pageId);
  if (number !== undefined) return t`Page ${number} of ${{ count: boundPages(handIn).length }}`;
  return t`Left out, place ${{ place: shownPages(handIn).findIndex(({ id }) => id === pageId) + 1 }}`;
}
