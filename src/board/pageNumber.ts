import { boundPages, shownPages, type HandIn } from '../../core/handIn/handIn';

/** Numbers in the file by page; a page that is left out has none. */
export const pageNumbers = (handIn: HandIn): ReadonlyMap<string, number> =>
  new Map(boundPages(handIn).map(({ id }, i) => [id, i + 1]));

/** Where a page stands, in words. */
export function pageHeading(handIn: HandIn, pageId: string): string {
  const number = pageNumbers(handIn).get(pageId);
  if (number !== undefined) return `Page ${number} of ${boundPages(handIn).length}`;
  return `Left out, place ${shownPages(handIn).findIndex(({ id }) => id === pageId) + 1}`;
}
