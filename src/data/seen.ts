import { createStore, type StoreApi } from 'zustand/vanilla';
import type { LocalDatabase } from './localDatabase';

const KEPT = 2000;

/** Pages that were ticked off while reading through; kept on this device. */
export interface Seen {
  readonly state: StoreApi<{ readonly seen: readonly string[] }>;
  load(): Promise<void>;
  mark(pageId: string): Promise<void>;
}

export function createSeen(db: LocalDatabase): Seen {
  const state = createStore<{ readonly seen: readonly string[] }>(() => ({ seen: [] }));
  return {
    state,
    async load() {
      state.setState({ seen: (await db.get('seen', 'pages')) ?? [] });
    },
    async mark(pageId) {
      const { seen } = state.getState();
      if (seen.includes(pageId)) return;
      const next = [...seen, pageId].slice(-KEPT);
      state.setState({ seen: next });
      // a tick can be made again; a full device goes without
      await db.put('seen', next, 'pages').catch(() => undefined);
    },
  };
}
