/** What was photographed; a spread is a page only until its two halves have been found. */

export const PAGE_KINDS = ['sheet', 'spread', 'board', 'card', 'picture'] as const;
export type PageKind = (typeof PAGE_KINDS)[number];
