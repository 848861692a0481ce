import { putOriginal } from './putOriginal';
import { FotoplanError } from '../../core/errors';
import type { KeptBytes } from '../../platform/keptBytes';
import type { ApiClient } from './apiClient';
import { originalName } from './byteNames';
import type { NewOriginal } from './documents';
import type { LocalDatabase } from './localDatabase';

export interface Originals {
  /** From this device, or fetched once and kept. @throws FotoplanError where neither has it */
  load(originalId: string, fileName: string): Promise<Blob>;
  /** From this device alone; null where it is not here. */
  local(originalId: string): Promise<Blob | null>;
  /** Whether this device brought it. */
  isFromHere(originalId: string): Promise<boolean>;
  /** Keeps one that no command brings: of a hand-in that is being imported. */
  keep(original: NewOriginal): Promise<void>;
  /** What could be dropped here because the server has it: bytes, and which. */
  droppable(referred: ReadonlySet<string>): Promise<{ readonly ids: readonly string[]; readonly bytes: number }>;
  /** Drops bytes that the server has; they are fetched again when they are needed. @returns bytes freed */
  drop(ids: readonly string[]): Promise<number>;
}

export function createOriginals(db: LocalDatabase, bytes: KeptBytes, api: ApiClient): Originals {
  const fetching = new Map<string, Promise<Blob>>();

  const local = async (originalId: string): Promise<Blob | null> => {
    const kept = await bytes.get(originalName(originalId));
    if (kept !== null) return kept;
    // not moved yet from where earlier versions kept it
    return (await db.get('originals', originalId))?.blob ?? null;
  };

  async function fetchOnce(id: string, fileName: string): Promise<Blob> {
    const blob = await api.fetchOriginal(id);
    // a full device still shows the page; it is then fetched again next time
    await putOriginal(bytes, id, blob)
      .then(() => db.put('originals', { id, fileName, bytes: blob.size, from: 'server' }))
      .catch(() => undefined);
    return blob;
  }

  return {
    local,
    async load(originalId, fileName) {
      const kept = await local(originalId);
      if (kept !== null) return kept;
      let coming = fetching.get(originalId);
      if (coming === undefined) {
        coming = fetchOnce(originalId, fileName).finally(() => fetching.delete(originalId));
        fetching.set(originalId, coming);
      }
      return coming.catch((error: unknown) => {
        if (error instanceof FotoplanError && error.code === 'OFFLINE')
          throw new FotoplanError(
            'OFFLINE',
            `“${fileName}” is not on this device. It is fetched once there is a connection.`,
            {},
            { cause: error },
          );
        throw error;
      });
    },
    async isFromHere(originalId) {
      // kept by an earlier version, which did not tell where it came from
      const kept = await db.get('originals', originalId);
      return kept !== undefined && kept.from !== 'server';
    },
    async keep({ id, fileName, blob }) {
      await putOriginal(bytes, id, blob);
      await db.put('originals', { id, fileName, bytes: blob.size, from: 'here' });
    },
    async droppable(referred) {
      const waiting = new Set(
        (await db.getAll('outbox')).flatMap((item) => (item.kind === 'original' ? [item.originalId] : [])),
      );
      const here = (await db.getAll('originals')).filter(({ id }) => referred.has(id) && !waiting.has(id));
      const there = new Set(here.length === 0 ? [] : await api.haveOriginals(here.map(({ id }) => id)));
      const ids = here.filter(({ id }) => there.has(id));
      return { ids: ids.map(({ id }) => id), bytes: ids.reduce((sum, { bytes: size }) => sum + size, 0) };
    },
    async drop(ids) {
      let freed = 0;
      for (const id of ids) {
        const kept = await db.get('originals', id);
        await db.delete('originals', id);
        await bytes.delete(originalName(id));
        freed += kept?.bytes ?? 0;
      }
      return freed;
    },
  };
}
