import { openDB, type DBSchema, type IDBPDatabase } from 'idb';
import type { ProfileView } from '../../contract/views';
import type { HandIn } from '../../core/handIn/handIn';
import type { Operation } from '../../core/handIn/operation';
import type { PageWord } from '../../core/pdf/boundPage';
import type { ShotVerdict } from '../../core/quality/inspectShot';

/** A photo kept on this device. */
export interface StoredOriginal {
  readonly id: string;
  readonly fileName: string;
  readonly blob: Blob;
}

/** What was read on a page, by what the page shows. */
export interface StoredReading {
  readonly key: string;
  readonly words: readonly PageWord[];
}

/** The file made last for a hand-in. */
export interface StoredBoundFile {
  readonly handInId: string;
  readonly id: string;
  /** What it was called when it was made; it can be renamed without being made again. */
  readonly name: string;
  readonly blob: Blob;
  readonly sha256: string;
  /** Where the limit took several files: all of them, the one above first. */
  readonly parts: readonly Blob[];
  readonly pageBytes: readonly number[];
  /** Which of CODINGS each page got. */
  readonly codings: readonly number[];
  readonly boundAtMs: number;
  /** What it was made from; another key means it is out of date. */
  readonly madeFrom: string;
}

/** What was seen on a page's shot when its paper was found. */
export interface StoredVerdict {
  readonly pageId: string;
  /** The shot it speaks of; another original in the page's place has its own. */
  readonly originalId: string;
  readonly verdict: ShotVerdict;
}

/** An operation before it has an id and a time. */
export type Change = Unstamped<Operation>;
type Unstamped<T> = T extends Operation ? Omit<T, 'id' | 'atMs'> : never;

/** One thing a person did, and what takes it back. */
export interface HistoryStep {
  readonly label: string;
  readonly forward: readonly Change[];
  readonly inverse: readonly Change[];
  /** Steps of one group that follow each other are one. */
  readonly group?: string;
}

/** What was done in a hand-in, oldest first, and what was taken back, the next to do again last. */
export interface StoredHistory {
  readonly handInId: string;
  readonly done: readonly HistoryStep[];
  readonly undone: readonly HistoryStep[];
}

/** What waits to go up, in order. Bytes are named, not copied. */
export type OutboxItem =
  | { readonly kind: 'original'; readonly originalId: string }
  | { readonly kind: 'operation'; readonly operation: Operation }
  | { readonly kind: 'boundFile'; readonly handInId: string }
  | { readonly kind: 'profile' };

interface FotoplanSchema extends DBSchema {
  handIns: { key: string; value: HandIn };
  originals: { key: string; value: StoredOriginal };
  boundFiles: { key: string; value: StoredBoundFile };
  outbox: { key: number; value: OutboxItem };
  verdicts: { key: string; value: StoredVerdict };
  device: { key: 'key'; value: string };
  histories: { key: string; value: StoredHistory };
  seen: { key: 'pages'; value: readonly string[] };
  readings: { key: string; value: StoredReading };
  profile: { key: 'own'; value: ProfileView };
}

export type LocalDatabase = IDBPDatabase<FotoplanSchema>;

/** Opens the device's own store; everything is written here before the screen shows it as done. */
export function openLocalDatabase(name = 'fotoplan'): Promise<LocalDatabase> {
  return openDB<FotoplanSchema>(name, 5, {
    upgrade(db, from, _to, tx) {
      if (from < 1) {
        db.createObjectStore('handIns', { keyPath: 'id' });
        db.createObjectStore('originals', { keyPath: 'id' });
        db.createObjectStore('boundFiles', { keyPath: 'handInId' });
        db.createObjectStore('outbox', { autoIncrement: true });
      }
      if (from < 2) {
        db.createObjectStore('verdicts', { keyPath: 'pageId' });
        db.createObjectStore('device');
      }
      if (from < 3) {
        db.createObjectStore('histories', { keyPath: 'handInId' });
        db.createObjectStore('seen');
      }
      if (from < 4) {
        db.createObjectStore('readings', { keyPath: 'key' });
        // files of before say less about themselves; they are quickly made again
        void tx.objectStore('boundFiles').clear();
      }
      if (from < 5) db.createObjectStore('profile');
    },
  });
}

/** The key by which the server knows this device again; made once. */
export async function deviceKey(db: LocalDatabase): Promise<string> {
  const tx = db.transaction('device', 'readwrite');
  const kept = await tx.store.get('key');
  const key = kept ?? base64url(crypto.getRandomValues(new Uint8Array(32)));
  if (kept === undefined) await tx.store.put(key, 'key');
  await tx.done;
  return key;
}

const base64url = (bytes: Uint8Array): string => btoa(String.fromCharCode(...bytes)).replaceAll('+', '-').replaceAll('/', '_').replaceAll('=', '');

export interface ChangeToWrite {
  readonly handInIds: readonly string[];
  /** Says what they become, from what they are when it is written: another tab may have been at them. */
  readonly apply: (before: ReadonlyMap<string, HandIn>) => { readonly handIns: readonly HandIn[]; readonly items: readonly OutboxItem[] };
  readonly original?: StoredOriginal | undefined;
  readonly history?: StoredHistory | undefined;
}

/** Writes changed hand-ins, what must go up for them and how it is taken back, in one transaction: all or nothing. */
export async function writeChange(db: LocalDatabase, { handInIds, apply, original, history }: ChangeToWrite): Promise<readonly HandIn[]> {
  const tx = db.transaction(['handIns', 'outbox', 'originals', 'histories'], 'readwrite');
  try {
    const before = await Promise.all(handInIds.map((id) => tx.objectStore('handIns').get(id)));
    const { handIns, items } = apply(new Map(before.flatMap((handIn) => (handIn === undefined ? [] : [[handIn.id, handIn] as const]))));
    const writes: Promise<unknown>[] = handIns.map((handIn) => tx.objectStore('handIns').put(handIn));
    if (original !== undefined) writes.push(tx.objectStore('originals').put(original));
    if (history !== undefined) writes.push(tx.objectStore('histories').put(history));
    for (const item of items) writes.push(tx.objectStore('outbox').add(item));
    await Promise.all([...writes, tx.done]);
    return handIns;
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
