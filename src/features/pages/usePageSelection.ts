import { useState } from 'react';
import { shownPages, type HandIn } from '../../../core/work/hand-in/handIn';
import { afterPress, NOTHING_CHOSEN, type HeldKeys, type PageSelection } from './pageSelection';

export interface PageChoosing {
  /** Null while pages are opened and not chosen. */
  readonly chosen: readonly string[] | null;
  readonly choose: (ids: readonly string[] | null) => void;
  readonly toggle: () => void;
  /** A page was pressed; with a key held, that begins choosing. */
  readonly press: (id: string, held: HeldKeys) => void;
}

/** Which pages of a hand-in are chosen. */
export function usePageSelection(handIn: HandIn, onOpen: (id: string) => void): PageChoosing {
  const [selection, setSelection] = useState<PageSelection | null>(null);
  const choose = (ids: readonly string[] | null): void =>
    setSelection(ids === null ? null : { chosen: ids, anchor: ids.at(-1) ?? null });
  return {
    chosen: selection?.chosen ?? null,
    choose,
    toggle: () => choose(selection === null ? [] : null),
    press: (id, held) => {
      if (selection === null && !held.range && !held.add) return onOpen(id);
      const ids = shownPages(handIn).map((page) => page.id);
      setSelection(afterPress(selection ?? NOTHING_CHOSEN, ids, id, held));
    },
  };
}
