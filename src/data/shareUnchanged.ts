import type { HandIn } from '../../core/work/hand-in/handIn';

const same = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);

/** The hand-in as it was read, with the very pages of before where they have not changed: screens draw only what has. */
export function shareUnchanged(before: HandIn | undefined, after: HandIn): HandIn {
  if (before === undefined) return after;
  const known = new Map(before.pages.map((page) => [page.id, page]));
  const pages = after.pages.map((page) => {
    const old = known.get(page.id);
    return old !== undefined && same(old, page) ? old : page;
  });
  const isSame =
    pages.length === before.pages.length &&
    pages.every((page, i) => page === before.pages[i]) &&
    same({ ...before, pages: [] }, { ...after, pages: [] });
  return isSame ? before : { ...after, pages };
}
