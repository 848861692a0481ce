import { useLayoutEffect } from 'react';

/**
 * Single keys that act while no field, tool or dialog has them. They change with the screen, before it is drawn: a key
 * pressed as soon as a tool is seen closed is not lost.
 */
export function useKeys(keys: Readonly<Record<string, () => void>>, wanted: boolean): void {
  useLayoutEffect(() => {
    if (!wanted) return;
    const press = (event: KeyboardEvent): void => {
      if (event.ctrlKey || event.metaKey || event.altKey || event.defaultPrevented) return;
      if (event.target instanceof HTMLElement && event.target.matches('input, textarea')) return;
      const act = keys[event.key];
      if (act === undefined) return;
      event.preventDefault();
      act();
    };
    window.addEventListener('keydown', press);
    return () => window.removeEventListener('keydown', press);
  });
}
