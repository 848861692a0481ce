import { openDB, type DBSchema, type IDBPDatabase, type IDBPTransaction, type StoreNames } from 'idb';
import type { ProfileView } from '../../contract/views';
import type { StoredHandIn } from '../../core/work/hand-in/readHandIn';
import { missing, storageError } from '../../platform/browser/keptBytes/storageError';
import type { StoredHistory } from './history';
import type { OutboxItem } from './outbox';

/** A photo or PDF of which this device keeps the bytes (platform/keptBytes), under `originalName`. */
export interface StoredOriginal {
  readonly id: string;
  readonly fileName: string;
  readonly bytes: number;
  /** Brought by this device, or fetched from the server. */
  readonly from: 'here' | 'server';
  /** Until version 6 the bytes were kept here. */
  readonly blob?: Blob;
}

/** The file bound last for a hand-in; its bytes are kept under `boundName`. */
export interface StoredBoundFile {
  readonly handInId: string;
  readonly id: string;
  /** What it was called when it was made; it can be renamed without being made again. */
  readonly name: string;
  readonly sha256: string;
  readonly pageBytes: readonly number[];
  /** How much of each page's sharpness the limit took, per cent. */
  readonly codings: readonly number[];
  readonly boundAtMs: number;
  /** What it was made from; another key means it is out of date. */
  readonly madeFrom: string;
  /** How many numbered files the limit took; 1 where it is one. */
  readonly partCount?: number;
  /** Until version 6 the bytes were kept here; parts only where there were several, the blob first. */
  readonly blob?: Blob;
  readonly parts?: readonly Blob[];
}

/** Something that can be made again: kept by what it was made from, dropped when room is needed, least recently used first. */
export interface StoredDerived {
  readonly key: string;
  readonly value: ArrayBuffer | object;
  readonly bytes: number;
  readonly usedAtMs: number;
}

/** How far this device knows what the server has. */
export interface Cursor {
  readonly owner: string;
  readonly seq: number;
}

export interface FotoplanSchema extends DBSchema {
  handIns: { key: string; value: StoredHandIn };
  originals: { key: string; value: StoredOriginal };
  boundFiles: { key: string; value: StoredBoundFile };
  outbox: { key: number; value: OutboxItem };
  histories: { key: string; value: StoredHistory };
  /** `byUse` tells when and how large without reading the values themselves. */
  derived: { key: string; value: StoredDerived; indexes: { byUse: [usedAtMs: number, bytes: number] } };
  seen: { key: 'pages'; value: readonly string[] };
  profile: { key: 'own'; value: ProfileView };
  /**
   * `key`: by which the server knows this device; `cursor`; `acked`: how many answers of the server made the outbox shorter; `folder`:
   * where files were saved last.
   */
  device: { key: 'key' | 'cursor' | 'acked' | 'folder'; value: string | Cursor | number | FileSystemDirectoryHandle };
}

export type LocalDatabase = IDBPDatabase<FotoplanSchema>;
export type StoreName = StoreNames<FotoplanSchema>;
export type WriteTransaction<S extends StoreName> = IDBPTransaction<FotoplanSchema, S[], 'readwrite'>;

export interface DatabaseEvents {
  /** Another tab keeps an older version open; opening goes on once it is closed or reloaded. */
  readonly onBlocked: () => void;
  /** Another tab needs a newer version: this one has let go, and must be reloaded. */
  readonly onOutdated: () => void;
  /** The browser ended the connection by itself. */
  readonly onLost: () => void;
}

const VERSION = 6;

/**
 * Opens what this device keeps; everything is written here before the screen shows it as done.
 * @throws FotoplanError STORAGE_… with the browser's reason
 */
export async function openLocalDatabase(events: DatabaseEvents, name = 'fotoplan'): Promise<LocalDatabase> {
  try {
    if ((globalThis as { indexedDB?: unknown }).indexedDB === undefined) throw missing('IndexedDB');
    return await openDB<FotoplanSchema>(name, VERSION, {
      upgrade(db, from) {
        if (from < 1) {
          db.createObjectStore('handIns', { keyPath: 'id' });
          db.createObjectStore('originals', { keyPath: 'id' });
          db.createObjectStore('boundFiles', { keyPath: 'handInId' });
          db.createObjectStore('outbox', { autoIncrement: true });
        }
        if (from < 2) db.createObjectStore('device');
        if (from < 3) {
          db.createObjectStore('histories', { keyPath: 'handInId' });
          db.createObjectStore('seen');
        }
        if (from < 5) db.createObjectStore('profile');
        if (from < 6) {
          db.createObjectStore('derived', { keyPath: 'key' }).createIndex('byUse', ['usedAtMs', 'bytes']);
          // what was seen on shots is in the pages now; words that were read are read again
          const before = db as unknown as IDBPDatabase;
          for (const old of ['verdicts', 'readings'])
            if (before.objectStoreNames.contains(old)) before.deleteObjectStore(old);
        }
      },
      blocked: events.onBlocked,
      blocking: (_from, _to, event) => {
        (event.target as IDBDatabase).close();
        events.onOutdated();
      },
      terminated: events.onLost,
    });
  } catch (error) {
    throw storageError(error);
  }
}

/**
 * One transaction, all or nothing: what throws in between leaves everything as it was.
 * @param work - may await nothing but requests of this transaction
 */
export async function inTransaction<S extends StoreName, T>(
  db: LocalDatabase,
  stores: S[],
  work: (tx: WriteTransaction<S>) => Promise<T>,
): Promise<T> {
  const tx = db.transaction(stores, 'readwrite');
  try {
    const result = await work(tx);
    await tx.done;
    return result;
  } catch (error) {
    tx.done.catch(() => undefined);
    try {
      tx.abort();
    } catch {
      // it has ended already
    }
    throw error;
  }
}

/** The key by which the server knows this device again; made once. */
export async function deviceKey(db: LocalDatabase): Promise<string> {
  return inTransaction(db, ['device'], async (tx) => {
    const kept = (await tx.objectStore('device').get('key')) as string | undefined;
    const key = kept ?? base64url(crypto.getRandomValues(new Uint8Array(32)));
    if (kept === undefined) await tx.objectStore('device').put(key, 'key');
    return key;
  });
}

const base64url = (bytes: Uint8Array): string =>
  btoa(String.fromCharCode(...bytes))
    .replaceAll('+', '-')
    .replaceAll('/', '_')
    .replaceAll('=', '');
