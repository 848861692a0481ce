import type { Database } from '../database';
import type { BlobStore } from './blobStore';
import { createInlineBytesWork, type BytesWork } from './bytesWork';

/** The bytes in the same SQLite file. */
export function createSqliteBlobs(db: Database, work: Pick<BytesWork, 'put'> = createInlineBytesWork(db)): BlobStore {
  const size = db.prepare<[string], { bytes: number }>('SELECT bytes FROM blob WHERE sha256 = ?');
  const chunk = db.prepare<[string, number], { data: Buffer }>('SELECT data FROM blob_chunk WHERE sha256 = ? AND seq = ?');
  const drop = db.prepare<[string]>('DELETE FROM blob WHERE sha256 = ?');
  return {
    put: (sha256, bytes, nowMs) => work.put(sha256, bytes, nowMs),
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
