/** The keys held while a page was pressed: Shift takes all up to it, Ctrl (or ⌘) takes it as well. */
export interface HeldKeys {
  readonly range: boolean;
  readonly add: boolean;
}

export interface PageSelection {
  /** In the order they were taken. */
  readonly chosen: readonly string[];
  /** Where a range begins: the page pressed last without Shift. */
  readonly anchor: string | null;
}

export const NOTHING_CHOSEN: PageSelection = { chosen: [], anchor: null };

/**
 * What is chosen after a page was pressed.
 *
 * @param ids - all pages as they lie
 */
export function afterPress(
  { chosen, anchor }: PageSelection,
  ids: readonly string[],
  id: string,
  { range }: HeldKeys,
): PageSelection {
  const from = anchor === null ? -1 : ids.indexOf(anchor);
  if (range && from >= 0) {
    const to = ids.indexOf(id);
    const between = ids.slice(Math.min(from, to), Math.max(from, to) + 1);
    return { chosen: [...chosen, ...between.filter((each) => !chosen.includes(each))], anchor };
  }
  return {
    chosen: chosen.includes(id) ? chosen.filter((each) => each !== id) : [...chosen, id],
    anchor: id,
  };
}
