import { create } from 'zustand';
import { services } from './services';

/** Pages that were ticked off while reading through; kept on this device. */
export const useSeenStore = create<{ readonly seen: readonly string[] }>(() => ({ seen: [] }));

const KEPT = 2000;

export async function loadSeen(): Promise<void> {
  const { db } = await services();
  const kept = await db.get('seen', 'pages');
  if (kept !== undefined) useSeenStore.setState({ seen: kept });
}

export async function markSeen(pageId: string): Promise<void> {
  const { seen } = useSeenStore.getState();
  if (seen.includes(pageId)) return;
  const next = [...seen, pageId].slice(-KEPT);
  useSeenStore.setState({ seen: next });
  const { db } = await services();
  // a tick can be made again; a full device goes without
  await db.put('seen', next, 'pages').catch(() => undefined);
}
