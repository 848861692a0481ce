import { createStore, type StoreApi } from 'zustand/vanilla';
import type { ProfileView } from '../../contract/views';
import { inTransaction, type LocalDatabase } from './localDatabase';

export const EMPTY_PROFILE: ProfileView = {
  first: '',
  family: '',
  number: '',
  paper: 'auto',
  name: null,
  courseNames: {},
};

/** Who hands in, as the course wants it written; the same on every linked screen. */
export interface Profile {
  readonly state: StoreApi<ProfileView>;
  load(): Promise<void>;
  change(changes: Partial<ProfileView>): Promise<void>;
  /** What the server says, unless a change still waits here. */
  take(remote: ProfileView | null): Promise<void>;
}

export function createProfile(db: LocalDatabase, onChanged: () => void): Profile {
  const state = createStore<ProfileView>(() => EMPTY_PROFILE);
  const load = async (): Promise<void> => {
    const kept = await db.get('profile', 'own');
    if (kept !== undefined) state.setState(kept);
  };
  return {
    state,
    load,
    async change(changes) {
      state.setState(changes);
      const profile = state.getState();
      await inTransaction(db, ['profile', 'outbox'], async (tx) => {
        await tx.objectStore('profile').put(profile, 'own');
        // only the latest goes up; under a new key, so that an answer to an older one does not take it away
        for (
          let cursor = await tx.objectStore('outbox').openCursor();
          cursor !== null;
          cursor = await cursor.continue()
        )
          if (cursor.value.kind === 'profile') await cursor.delete();
        await tx.objectStore('outbox').add({ kind: 'profile' });
      });
      onChanged();
    },
    async take(remote) {
      if (remote === null) return;
      const taken = await inTransaction(db, ['profile', 'outbox'], async (tx) => {
        if ((await tx.objectStore('outbox').getAll()).some(({ kind }) => kind === 'profile')) return false;
        await tx.objectStore('profile').put(remote, 'own');
        return true;
      });
      if (taken) state.setState(remote);
    },
  };
}
