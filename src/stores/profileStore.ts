import { create } from 'zustand';
import type { ProfileView } from '../../contract/views';
import { services } from './services';
import { wakeSync, whileWriting } from './syncStore';

export const EMPTY_PROFILE: ProfileView = { first: '', family: '', number: '', paper: 'auto', name: null, courseNames: {} };

/** Who hands in, as the course wants it written; the same on every linked screen. */
export const useProfileStore = create<ProfileView>(() => EMPTY_PROFILE);

/** What this device knows, then what the server knows, unless a change still waits here. */
export async function loadProfile(): Promise<void> {
  const { db, api } = await services();
  const kept = await db.get('profile', 'own');
  if (kept !== undefined) useProfileStore.setState(kept);
  const waits = async (): Promise<boolean> => (await db.getAll('outbox')).some(({ kind }) => kind === 'profile');
  const remote = await api.profile().catch(() => null);
  if (remote === null || (await waits())) return;
  useProfileStore.setState(remote);
  await db.put('profile', remote, 'own').catch(() => undefined);
}

export async function changeProfile(changes: Partial<ProfileView>): Promise<void> {
  useProfileStore.setState(changes);
  const profile = useProfileStore.getState();
  await whileWriting(async () => {
    const { db } = await services();
    const tx = db.transaction(['profile', 'outbox'], 'readwrite');
    await Promise.all([tx.objectStore('profile').put(profile, 'own'), tx.objectStore('outbox').add({ kind: 'profile' }), tx.done]);
    wakeSync();
  });
}
