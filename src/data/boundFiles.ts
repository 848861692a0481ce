import { createStore, type StoreApi } from 'zustand/vanilla';
import type { KeptBytes } from '../../platform/keptBytes';
import type { ApiClient } from './apiClient';
import { boundName, boundPartName } from './byteNames';
import { inTransaction, type LocalDatabase, type StoredBoundFile } from './localDatabase';
import type { Locks } from './locks';

/** The file bound last for a hand-in, with its bytes. */
export interface BoundFile extends Omit<StoredBoundFile, 'blob' | 'parts' | 'partCount'> {
  readonly blob: Blob;
  /** Where the limit took several files: all of them, the one above first; else none. */
  readonly parts: readonly Blob[];
}

export interface BoundFiles {
  readonly state: StoreApi<{ readonly files: Readonly<Record<string, BoundFile>> }>;
  /** Shows the file as this device has it, and asks nobody else. */
  showKept(handInId: string): Promise<void>;
  /** Shows the file as this device has it, then a newer one where another screen has bound it since. */
  load(handInId: string): Promise<void>;
  /** Keeps a file that was made here, and sends it up behind everything else. */
  keep(file: BoundFile): Promise<void>;
  /** The file as this device has it, or null. */
  local(handInId: string): Promise<BoundFile | null>;
  /** Lets go of the file of a hand-in that was deleted for good. */
  forget(handInId: string): Promise<void>;
}

export function createBoundFiles(
  db: LocalDatabase,
  bytes: KeptBytes,
  locks: Pick<Locks, 'keeping'>,
  api: ApiClient,
  onKept: (handInId: string) => void,
): BoundFiles {
  const state = createStore<{ readonly files: Readonly<Record<string, BoundFile>> }>(() => ({ files: {} }));
  const show = (file: BoundFile): void => state.setState((s) => ({ files: { ...s.files, [file.handInId]: file } }));

  async function local(handInId: string): Promise<BoundFile | null> {
    const kept = await db.get('boundFiles', handInId);
    if (kept === undefined) return null;
    const { blob: before, parts: partsBefore, partCount = 1, ...file } = kept;
    if (before !== undefined) return { ...file, blob: before, parts: partsBefore ?? [] };
    const blob = await bytes.get(boundName(kept.id));
    if (blob === null) return null;
    const others = await Promise.all(
      Array.from({ length: partCount - 1 }, (_, i) => bytes.get(boundPartName(kept.id, i + 2))),
    );
    return { ...file, blob, parts: partCount === 1 ? [] : [blob, ...others.flatMap((part) => part ?? [])] };
  }

  const namesOf = ({ id, partCount = 1 }: StoredBoundFile): string[] => [
    boundName(id),
    ...Array.from({ length: partCount - 1 }, (_, i) => boundPartName(id, i + 2)),
  ];

  async function write(file: BoundFile, goesUp: boolean): Promise<void> {
    const { blob, parts, ...stored } = file;
    await bytes.put(boundName(file.id), blob);
    for (const [i, part] of parts.slice(1).entries()) await bytes.put(boundPartName(file.id, i + 2), part);
    const before = await inTransaction(db, ['boundFiles', 'outbox'], async (tx) => {
      const old = await tx.objectStore('boundFiles').get(file.handInId);
      await tx.objectStore('boundFiles').put({ ...stored, partCount: Math.max(1, parts.length) });
      if (goesUp) await tx.objectStore('outbox').add({ kind: 'boundFile', handInId: file.handInId });
      return old;
    });
    if (before !== undefined && before.id !== file.id) for (const name of namesOf(before)) await bytes.delete(name);
    show(file);
  }

  async function fetchNewer(handInId: string, known: BoundFile | null): Promise<void> {
    const [newest] = await api.boundFiles(handInId);
    const { madeFrom, pageBytes, codings } = newest?.facts ?? {};
    if (
      newest === undefined ||
      newest.boundAtMs <= (known?.boundAtMs ?? 0) ||
      madeFrom === undefined ||
      pageBytes === undefined ||
      codings === undefined
    )
      return;
    const waiting = await db.getAll('outbox');
    if (
      waiting.some((item) => item.kind === 'boundFile' && item.handInId === handInId) ||
      known?.sha256 === newest.sha256
    )
      return;
    const { id, name, sha256, boundAtMs } = newest;
    const file: BoundFile = {
      handInId,
      id,
      name,
      blob: await api.fetchBoundFile(id),
      sha256,
      parts: [],
      pageBytes,
      codings,
      boundAtMs,
      madeFrom,
    };
    // a full device shows it all the same
    await locks.keeping(() => write(file, false)).catch(() => show(file));
  }

  return {
    state,
    local,
    async showKept(handInId) {
      const file = await local(handInId);
      if (file !== null) show(file);
    },
    async load(handInId) {
      const file = await local(handInId);
      if (file !== null) show(file);
      // without a connection what is here is what there is
      await fetchNewer(handInId, file).catch(() => undefined);
    },
    async keep(file) {
      await locks.keeping(() => write(file, true));
      onKept(file.handInId);
    },
    async forget(handInId) {
      const kept = await db.get('boundFiles', handInId);
      if (kept === undefined) return;
      await db.delete('boundFiles', handInId);
      for (const name of namesOf(kept)) await bytes.delete(name);
      state.setState((s) => ({ files: Object.fromEntries(Object.entries(s.files).filter(([id]) => id !== handInId)) }));
    },
  };
}
