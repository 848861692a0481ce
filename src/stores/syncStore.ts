import { create } from 'zustand';
import { createSyncLoop, type SyncLoop, type SyncState } from '../sync/syncLoop';
import { services } from './services';

interface SyncStore extends SyncState {
  /** Changes that are being written to this device: not in the outbox yet, and not safe yet. */
  readonly writing: number;
}

export const useSyncStore = create<SyncStore>(() => ({ waiting: null, connection: 'up', problem: null, writing: 0 }));

let loop: SyncLoop | null = null;

/** Begins sending what waits; safe to call again. */
export async function startSync(): Promise<void> {
  if (loop !== null) return;
  const { db, api } = await services();
  loop = createSyncLoop(db, api, (state) => useSyncStore.setState(state));
  window.addEventListener('online', () => loop?.wake());
  loop.wake();
}

/** Call after something was put into the outbox: nobody may read that all is saved until the loop has looked. */
export function wakeSync(): void {
  if (loop === null) return;
  useSyncStore.setState(({ waiting }) => ({ waiting: Math.max(1, waiting ?? 0) }));
  loop.wake();
}

/** Does what writes a change, which counts as unsaved from this moment on. */
export async function whileWriting<T>(work: () => Promise<T>): Promise<T> {
  useSyncStore.setState(({ writing }) => ({ writing: writing + 1 }));
  try {
    return await work();
  } finally {
    useSyncStore.setState(({ writing }) => ({ writing: writing - 1 }));
  }
}
