import type { Database } from '../database';
import type { BlobStore } from './blobStore';

const CHUNK_BYTES = 1 << 20;

/** The bytes in the same SQLite file, in chunks of 1 MiB so that no read holds a whole photo. */
export function createSqliteBlobs(db: Database): BlobStore {
  const insert = db.prepare<[string, number, number]>('INSERT INTO blob (sha256, bytes, put_at_ms) VALUES (?, ?, ?) ON CONFLICT DO NOTHING');
  const touch = db.prepare<[number, string]>('UPDATE blob SET put_at_ms = ? WHERE sha256 = ?');
  const insertChunk = db.prepare<[string, number, Uint8Array]>('INSERT INTO blob_chunk (sha256, seq, data) VALUES (?, ?, ?)');
  const size = db.prepare<[string], { bytes: number }>('SELECT bytes FROM blob WHERE sha256 = ?');
  const chunk = db.prepare<[string, number], { data: Buffer }>('SELECT data FROM blob_chunk WHERE sha256 = ? AND seq = ?');
  const drop = db.prepare<[string]>('DELETE FROM blob WHERE sha256 = ?');
  const put = db.transaction((sha256: string, bytes: Uint8Array, nowMs: number) => {
    if (insert.run(sha256, bytes.length, nowMs).changes === 0) return void touch.run(nowMs, sha256);
    for (let seq = 0; seq * CHUNK_BYTES < bytes.length; seq++) {
      insertChunk.run(sha256, seq, bytes.subarray(seq * CHUNK_BYTES, (seq + 1) * CHUNK_BYTES));
    }
  });
  return {
    put: (sha256, bytes, nowMs) => Promise.resolve(put(sha256, bytes, nowMs)),
    size: (sha256) => size.get(sha256)?.bytes ?? 0,
    // eslint-disable-next-line @typescript-eslint/require-await -- what is asked for is an asynchronous iterable
    async *read(sha256) {
      for (let seq = 0; ; seq++) {
        const row = chunk.get(sha256, seq);
        if (row === undefined) return;
        yield row.data;
      }
    },
    remove: (sha256) => Promise.resolve(void drop.run(sha256)),
  };
}
