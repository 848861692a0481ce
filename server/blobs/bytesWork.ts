import { createHash } from 'node:crypto';
import type { Database } from '../database';

const CHUNK_BYTES = 1 << 20;

/** The heavy writing: what weighs megabytes goes through here, on a thread of its own where there is one. */
export interface BytesWork {
  /** Keeps a part of an upload. */
  part(ownerId: string, sha256: string, seq: number, bytes: Uint8Array, nowMs: number): Promise<void>;
  /** All parts in one, with the hash they really have. */
  join(ownerId: string, sha256: string): Promise<{ readonly bytes: Uint8Array; readonly sha256: string }>;
  /** Keeps a blob in chunks of 1 MiB, so that no read holds a whole photo; twice is once. */
  put(sha256: string, bytes: Uint8Array, nowMs: number): Promise<void>;
}

/** Does it here and now. */
export function createInlineBytesWork(db: Database): BytesWork {
  const insertPart = db.prepare<[string, string, number, number, Uint8Array]>('INSERT INTO upload_part (owner_id, sha256, seq, at_ms, data) VALUES (?, ?, ?, ?, ?) ON CONFLICT (owner_id, sha256, seq) DO UPDATE SET data = excluded.data, at_ms = excluded.at_ms');
  const parts = db.prepare<[string, string], { data: Buffer }>('SELECT data FROM upload_part WHERE owner_id = ? AND sha256 = ? ORDER BY seq');
  const insert = db.prepare<[string, number, number]>('INSERT INTO blob (sha256, bytes, put_at_ms) VALUES (?, ?, ?) ON CONFLICT DO NOTHING');
  const touch = db.prepare<[number, string]>('UPDATE blob SET put_at_ms = ? WHERE sha256 = ?');
  const insertChunk = db.prepare<[string, number, Uint8Array]>('INSERT INTO blob_chunk (sha256, seq, data) VALUES (?, ?, ?)');
  const put = db.transaction((sha256: string, bytes: Uint8Array, nowMs: number) => {
    if (insert.run(sha256, bytes.length, nowMs).changes === 0) return void touch.run(nowMs, sha256);
    for (let seq = 0; seq * CHUNK_BYTES < bytes.length; seq++) insertChunk.run(sha256, seq, bytes.subarray(seq * CHUNK_BYTES, (seq + 1) * CHUNK_BYTES));
  });
  return {
    part: (ownerId, sha256, seq, bytes, nowMs) => Promise.resolve(void insertPart.run(ownerId, sha256, seq, nowMs, bytes)),
    join(ownerId, sha256) {
      const bytes = Buffer.concat(parts.all(ownerId, sha256).map(({ data }) => data));
      return Promise.resolve({ bytes, sha256: createHash('sha256').update(bytes).digest('hex') });
    },
    put: (sha256, bytes, nowMs) => Promise.resolve(put.immediate(sha256, bytes, nowMs)),
  };
}
