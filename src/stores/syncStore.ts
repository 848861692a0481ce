import { create } from 'zustand';
import { createSyncLoop, type SyncLoop, type SyncState } from '../sync/syncLoop';
import { services } from './services';

export const useSyncStore = create<SyncState>(() => ({ waiting: null, connection: 'up', problem: null }));

let loop: SyncLoop | null = null;

/** Begins sending what waits; safe to call again. */
export async function startSync(): Promise<void> {
  if (loop !== null) return;
  const { db, api } = await services();
  loop = createSyncLoop(db, api, (state) => useSyncStore.setState(state));
  window.addEventListener('online', () => loop?.wake());
  loop.wake();
}

export const wakeSync = (): void => loop?.wake();
