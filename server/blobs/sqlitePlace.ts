import type { Database } from '../database';
import type { BytePlace } from './blobStore';
import type { BytesWork } from './bytesWork';

/**
 * The bytes in the SQLite file for bytes.
 * @param bytesFile - only read here, so nobody waits
 * @param work - writes to the same file
 */
export function createSqlitePlace(bytesFile: Database, work: Pick<BytesWork, 'write' | 'chunk' | 'remove'>): BytePlace {
  const chunk = bytesFile.prepare<[string, number], { data: Buffer }>(
    'SELECT data FROM chunk WHERE sha256 = ? AND seq = ?',
  );
  const older = bytesFile.prepare<[number], { sha256: string }>('SELECT sha256 FROM body WHERE put_at_ms < ?');
  const held = bytesFile.prepare<[string], { bytes: number | null }>(
    'SELECT sum(length(data)) AS bytes FROM chunk WHERE sha256 = ?',
  );
  return {
    holds: (sha256, bytes) => Promise.resolve(held.get(sha256)?.bytes === bytes),
    write: (sha256, bytes, nowMs) => work.write(sha256, bytes, nowMs),
    async writePieces(sha256, _bytes, pieces, nowMs) {
      let seq = 0;
      for await (const piece of pieces) await work.chunk(sha256, seq++, piece, nowMs);
    },
    // eslint-disable-next-line @typescript-eslint/require-await -- what is asked for is an asynchronous iterable
    async *read(sha256) {
      for (let seq = 0; ; seq++) {
        const row = chunk.get(sha256, seq);
        if (row === undefined) return;
        yield row.data;
      }
    },
    remove: (sha256, beforeMs) => work.remove(sha256, beforeMs),
    ownWrittenBefore: (ms) => older.all(ms).map(({ sha256 }) => sha256),
  };
}
