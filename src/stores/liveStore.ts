import { create } from 'zustand';
import type { LiveEvent } from '../../contract/views';
import { FotoplanError } from '../../core/errors';
import { loadBoundFile } from './boundFileStore';
import { fetchHandIn, loadHandIns, takeFromDevice } from './handInStore';
import { loadHistories } from './historyStore';
import { loadProfile } from './profileStore';
import { services } from './services';
import { listenToOtherTabs } from './tabs';

/** What other screens and tabs do, as they do it. */
export const useLiveStore = create<{
  /** This screen was cut off from another one: it may show nothing more. */
  readonly cutOff: boolean;
  /** Grows whenever the list of linked screens has changed. */
  readonly screensChanged: number;
}>(() => ({ cutOff: false, screensChanged: 0 }));

export const noteCutOff = (): void => useLiveStore.setState({ cutOff: true });

const fetching = new Map<string, 'fetching' | 'again'>();

/** What changes while it is being fetched is fetched once more. */
async function fetchSettled(handInId: string): Promise<void> {
  if (fetching.has(handInId)) return void fetching.set(handInId, 'again');
  do {
    fetching.set(handInId, 'fetching');
    await fetchHandIn(handInId).catch(() => undefined);
  } while (fetching.get(handInId) === 'again');
  fetching.delete(handInId);
}

let opened = 0;
function take(event: LiveEvent): void {
  switch (event.kind) {
    case 'open':
      // after a break it is not known what was missed
      if (opened++ > 0) void loadHandIns().then(loadProfile);
      return;
    case 'handIn':
      return void fetchSettled(event.handInId);
    case 'boundFile':
      return void loadBoundFile(event.handInId);
    case 'profile':
      return void loadProfile();
    case 'screens':
      return useLiveStore.setState((s) => ({ screensChanged: s.screensChanged + 1 }));
    case 'cutOff':
      return noteCutOff();
  }
}

let started = false;

/** Listens to the server and to other tabs; safe to call again. */
export function startLive(): void {
  if (started) return;
  started = true;
  listenToOtherTabs((handInIds) => void takeFromDevice(handInIds).then(loadHistories));
  const source = new EventSource('/api/events');
  source.addEventListener('message', ({ data }: MessageEvent<string>) => take(JSON.parse(data) as LiveEvent));
  // a refusal ends the listening for good, a broken line does not: the browser tries again by itself
  source.addEventListener('error', () => {
    if (source.readyState === EventSource.CLOSED) void askWhy();
  });
}

async function askWhy(): Promise<void> {
  const { api } = await services();
  await api.profile().catch((error: unknown) => {
    if (error instanceof FotoplanError && error.code === 'SCREEN_CUT_OFF') noteCutOff();
  });
}

/** Takes everything off this device, and begins as somebody new. */
export async function startAfresh(): Promise<void> {
  const { db } = await services();
  db.close();
  await new Promise<void>((resolve) => {
    const request = indexedDB.deleteDatabase(db.name);
    request.onsuccess = request.onerror = request.onblocked = () => resolve();
  });
  localStorage.clear();
  window.location.replace('/');
}
