import { useState } from 'react';

interface State<T> {
  readonly past: readonly T[];
  readonly present: T;
  readonly future: readonly T[];
}

export interface Steps<T> {
  readonly present: T;
  readonly canUndo: boolean;
  readonly canRedo: boolean;
  /** Forgets all steps and begins with this. */
  readonly begin: (present: T) => void;
  /** Takes a step; what had been undone before it cannot be redone any more. */
  readonly set: (present: T) => void;
  readonly undo: () => void;
  readonly redo: () => void;
}

/** Something that is changed step by step and not kept yet, with undo and redo. */
export function useSteps<T>(first: T): Steps<T> {
  const [{ past, present, future }, setState] = useState<State<T>>({ past: [], present: first, future: [] });
  return {
    present,
    canUndo: past.length > 0,
    canRedo: future.length > 0,
    begin: (start) => setState({ past: [], present: start, future: [] }),
    set: (next) => setState((s) => ({ past: [...s.past, s.present], present: next, future: [] })),
    undo: () =>
      setState((s) =>
        s.past.length === 0
          ? s
          : { past: s.past.slice(0, -1), present: s.past.at(-1)!, future: [s.present, ...s.future] },
      ),
    redo: () =>
      setState((s) =>
        s.future.length === 0 ? s : { past: [...s.past, s.present], present: s.future[0]!, future: s.future.slice(1) },
      ),
  };
}
