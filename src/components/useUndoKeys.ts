import { useEffect } from 'react';

/** Control or Command with Z takes a step back, with Shift forward again, while the tool is open. */
export function useUndoKeys(undo: () => void, redo: () => void): void {
  useEffect(() => {
    const press = (event: KeyboardEvent): void => {
      if (event.key.toLowerCase() !== 'z' || !(event.ctrlKey || event.metaKey)) return;
      event.preventDefault();
      if (event.shiftKey) redo();
      else undo();
    };
    window.addEventListener('keydown', press);
    return () => window.removeEventListener('keydown', press);
  });
}
