import { create } from 'zustand';

/** Pieces of advice a person waved away, until the app is opened anew. */
export const useDismissedAdvice = create<{ readonly dismissed: readonly string[] }>(() => ({ dismissed: [] }));

export const dismissAdvice = (key: string): void =>
  useDismissedAdvice.setState((s) => ({ dismissed: [...s.dismissed, key] }));
