import { openDB, type DBSchema } from 'idb';
import type { KeptBytes } from '../../keptBytes';
import { missing, storageError } from './storageError';

interface BytesSchema extends DBSchema {
  bytes: { key: string; value: ArrayBuffer };
}

/**
 * Bytes as buffers in IndexedDB: some private windows refuse blobs there and take buffers.
 * @throws what the browser throws where it has no IndexedDB
 */
export async function openBufferBytes(name = 'fotoplan-bytes'): Promise<KeptBytes> {
  if ((globalThis as { indexedDB?: unknown }).indexedDB === undefined) throw missing('IndexedDB');
  const db = await openDB<BytesSchema>(name, 1, {
    upgrade(made) {
      made.createObjectStore('bytes');
    },
    blocking: (_from, _to, event) => (event.target as IDBDatabase).close(),
  });
  return {
    async put(key, blob) {
      const buffer = await blob.arrayBuffer();
      await db.put('bytes', buffer, key).catch((error: unknown) => Promise.reject(storageError(error)));
    },
    async get(key) {
      const buffer = await db.get('bytes', key);
      return buffer === undefined || buffer.byteLength === 0 ? null : new Blob([buffer]);
    },
    delete: (key) => db.delete('bytes', key),
    list: () => db.getAllKeys('bytes'),
    clear: () => db.clear('bytes'),
  };
}
