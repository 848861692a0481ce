import type { Database } from '../database';

const CHUNK_BYTES = 1 << 20;

export type BlobRepository = ReturnType<typeof createBlobRepository>;

/** Bytes under their SHA-256, in chunks of 1 MiB so that no read or write holds a whole photo. */
export function createBlobRepository(db: Database) {
  const insert = db.prepare<[string, number]>('INSERT INTO blob (sha256, bytes) VALUES (?, ?) ON CONFLICT DO NOTHING');
  const insertChunk = db.prepare<[string, number, Uint8Array]>('INSERT INTO blob_chunk (sha256, seq, data) VALUES (?, ?, ?)');
  const size = db.prepare<[string], { bytes: number }>('SELECT bytes FROM blob WHERE sha256 = ?');
  const chunk = db.prepare<[string, number], { data: Buffer }>('SELECT data FROM blob_chunk WHERE sha256 = ? AND seq = ?');
  return {
    /** Call inside a transaction with whatever refers to it. */
    put(sha256: string, bytes: Uint8Array): void {
      if (insert.run(sha256, bytes.length).changes === 0) return;
      for (let seq = 0; seq * CHUNK_BYTES < bytes.length; seq++) {
        insertChunk.run(sha256, seq, bytes.subarray(seq * CHUNK_BYTES, (seq + 1) * CHUNK_BYTES));
      }
    },
    size: (sha256: string): number => size.get(sha256)?.bytes ?? 0,
    *read(sha256: string): Generator<Buffer> {
      for (let seq = 0; ; seq++) {
        const row = chunk.get(sha256, seq);
        if (row === undefined) return;
        yield row.data;
      }
    },
  };
}
