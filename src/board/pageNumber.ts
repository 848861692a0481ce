import { boundPages, shownPages, type HandIn } from '../../core/handIn/handIn';

/** The page's number in the file, or null where it is left out. */
export function pageNumber(handIn: HandIn, pageId: string): number | null {
  const at = boundPages(handIn).findIndex(({ id }) => id === pageId);
  return at < 0 ? null : at + 1;
}

/** Where a page stands, in words. */
export function pageHeading(handIn: HandIn, pageId: string): string {
  const number = pageNumber(handIn, pageId);
  if (number !== null) return `Page ${number} of ${boundPages(handIn).length}`;
  return `Left out, place ${shownPages(handIn).findIndex(({ id }) => id === pageId) + 1}`;
}
