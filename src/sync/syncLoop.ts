import { FotoplanError } from '../../core/errors';
import type { ApiClient } from '../api/apiClient';
import type { LocalDatabase, OutboxItem } from '../storage/localDatabase';

export interface SyncState {
  /** Items that have not gone up yet; null until it is known. */
  readonly waiting: number | null;
  readonly connection: 'up' | 'down';
  /** Why the first item cannot go up, where that is not the connection. */
  readonly problem: string | null;
}

export interface SyncLoop {
  /** Call after something was put into the outbox, or when the connection may be back. */
  wake(): void;
}

const FIRST_PAUSE_MS = 1500;
const LONGEST_PAUSE_MS = 20_000;

/** A fault of the line or the server passes by itself; anything else is the item's own. */
const passes = (error: unknown): boolean => !(error instanceof FotoplanError) || error.code === 'OFFLINE' || error.code === 'INTERNAL' || error.code === 'HASH_MISMATCH';

/** One tab at a time, where the browser can tell: two would only send everything twice. */
async function alone(work: () => Promise<void>): Promise<void> {
  const locks = (globalThis.navigator as Navigator | undefined)?.locks;
  await (locks === undefined ? work() : locks.request('fotoplan-outbox', work));
}

/**
 * Sends the outbox in order, one item at a time; an item leaves only when the server has acknowledged it, and the server
 * applies each once, so a lost answer costs nothing but a repeat. A refused item is set aside and reported: the rest goes on.
 */
export function createSyncLoop(db: LocalDatabase, api: ApiClient, report: (state: SyncState) => void): SyncLoop {
  let running = false;
  let again = false;
  let pauseMs = FIRST_PAUSE_MS;
  let timer: ReturnType<typeof setTimeout> | undefined;
  let problem: string | null = null;

  const send = async (item: OutboxItem): Promise<void> => {
    if (item.kind === 'operation') return api.sendOperations([item.operation]);
    if (item.kind === 'original') {
      const original = await db.get('originals', item.originalId);
      return original === undefined ? undefined : api.sendOriginal(original.id, original.blob);
    }
    if (item.kind === 'profile') {
      const profile = await db.get('profile', 'own');
      return profile === undefined ? undefined : api.sendProfile(profile);
    }
    const file = await db.get('boundFiles', item.handInId);
    if (file === undefined) return;
    const { madeFrom, pageBytes, codings } = file;
    await api.sendBoundFile(item.handInId, { ...file, pages: pageBytes.length, facts: { madeFrom, pageBytes, codings } });
  };

  const drain = async (): Promise<void> => {
    for (;;) {
      const cursor = await db.transaction('outbox').store.openCursor();
      const waiting = await db.count('outbox');
      if (cursor === null) {
        report({ waiting: 0, connection: 'up', problem });
        return;
      }
      report({ waiting, connection: 'up', problem });
      try {
        await send(cursor.value);
        pauseMs = FIRST_PAUSE_MS;
      } catch (error) {
        if (passes(error)) {
          report({ waiting, connection: 'down', problem });
          timer = setTimeout(wake, pauseMs);
          pauseMs = Math.min(LONGEST_PAUSE_MS, pauseMs * 2);
          return;
        }
        problem = (error as FotoplanError).message;
      }
      await db.delete('outbox', cursor.key);
    }
  };

  function wake(): void {
    if (running) {
      again = true;
      return;
    }
    running = true;
    clearTimeout(timer);
    void alone(drain)
      .catch((error: unknown) => report({ waiting: 1, connection: 'down', problem: error instanceof Error ? error.message : String(error) }))
      .finally(() => {
        running = false;
        if (again) {
          again = false;
          wake();
        }
      });
  }
  return { wake };
}
