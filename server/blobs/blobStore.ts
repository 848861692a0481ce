import type { Database } from '../database';

/** Bytes under their SHA-256: originals and bound files. Put them first, then write what refers to them. */
export interface BlobStore {
  /** Safe on return; putting the same twice is putting it once. */
  put(sha256: string, bytes: Uint8Array, nowMs: number): Promise<void>;
  /** In bytes; 0 where there is no such blob. */
  size(sha256: string): number;
  /** In pieces of at most about 1 MiB. */
  read(sha256: string): AsyncIterable<Uint8Array>;
  /** Lets go of what nothing refers to and what was last put before then. @returns how many */
  removeUnreferred(beforeMs: number): Promise<number>;
}

/** Where the bytes themselves lie; the list of what there is stays beside what refers to them. */
export interface BytePlace {
  write(sha256: string, bytes: Uint8Array, nowMs: number): Promise<void>;
  read(sha256: string): AsyncIterable<Uint8Array>;
  /** Lets bytes go that were last written before then. */
  remove(sha256: string, beforeMs: number): Promise<void>;
  /** All that was last written before then and that this server alone can own; where others may share the place, nothing. */
  ownWrittenBefore(ms: number): readonly string[];
}

const ASKED_AT_ONCE = 200;
const nextTurn = (): Promise<void> => new Promise((resolve) => setImmediate(resolve));

/** Bytes are listed once they are there: a crash between the two leaves bytes that nobody refers to, never a gap. */
export function createListedBlobs(db: Database, place: BytePlace): BlobStore {
  const insert = db.prepare<[string, number, number]>('INSERT INTO blob (sha256, bytes, put_at_ms) VALUES (?, ?, ?) ON CONFLICT (sha256) DO UPDATE SET put_at_ms = excluded.put_at_ms');
  const size = db.prepare<[string], { bytes: number }>('SELECT bytes FROM blob WHERE sha256 = ?');
  const dropUnreferred = db.prepare<[number], { sha256: string }>(
    'DELETE FROM blob WHERE put_at_ms < ? AND NOT EXISTS (SELECT 1 FROM original WHERE original.sha256 = blob.sha256) AND NOT EXISTS (SELECT 1 FROM bound_file WHERE bound_file.sha256 = blob.sha256) AND NOT EXISTS (SELECT 1 FROM picture WHERE picture.sha256 = blob.sha256) RETURNING sha256',
  );
  const sizeOf = (sha256: string): number => size.get(sha256)?.bytes ?? 0;
  return {
    async put(sha256, bytes, nowMs) {
      if (sizeOf(sha256) === 0) await place.write(sha256, bytes, nowMs);
      insert.run(sha256, bytes.length, nowMs);
    },
    size: sizeOf,
    read: (sha256) => place.read(sha256),
    async removeUnreferred(beforeMs) {
      const dropped = dropUnreferred.all(beforeMs);
      for (const { sha256 } of dropped) await place.remove(sha256, beforeMs);
      for (const [k, sha256] of place.ownWrittenBefore(beforeMs).entries()) {
        if (sizeOf(sha256) === 0) await place.remove(sha256, beforeMs);
        // there may be very many
        if (k % ASKED_AT_ONCE === 0) await nextTurn();
      }
      return dropped.length;
    },
  };
}
