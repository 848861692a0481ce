import { useLayoutEffect } from 'react';

/** Control or Command with Z takes a step back, with Shift forward again, where that is wanted. */
export function useUndoKeys(undo: () => void, redo: () => void, wanted = true): void {
  useLayoutEffect(() => {
    if (!wanted) return;
    const press = (event: KeyboardEvent): void => {
      // in a text field the keys are the field's own
      if (event.target instanceof HTMLElement && event.target.matches('input:not([type=range]), textarea')) return;
      if (event.key.toLowerCase() !== 'z' || !(event.ctrlKey || event.metaKey)) return;
      event.preventDefault();
      if (event.shiftKey) redo();
      else undo();
    };
    window.addEventListener('keydown', press);
    return () => window.removeEventListener('keydown', press);
  });
}
