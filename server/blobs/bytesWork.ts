import { createHash } from 'node:crypto';
import type { Database } from '../database';

export const CHUNK_BYTES = 1 << 20;

/** The heavy writing: what weighs megabytes goes through here, on a thread of its own where there is one. Bytes that are given here are given away. */
export interface BytesWork {
  /** Keeps a part of an upload. */
  part(ownerId: string, sha256: string, seq: number, bytes: Uint8Array, nowMs: number): Promise<void>;
  /** All parts in one, with the hash they really have. */
  join(ownerId: string, sha256: string): Promise<{ readonly bytes: Uint8Array; readonly sha256: string }>;
  /** Lets the parts of an upload go. */
  forget(ownerId: string, sha256: string): Promise<void>;
  /** Lets go of the parts of all uploads given up before then. @returns how many */
  forgetBefore(beforeMs: number): Promise<number>;
  /** Keeps bytes in chunks of 1 MiB, so that no read holds a whole photo; twice is once. */
  write(sha256: string, bytes: Uint8Array, nowMs: number): Promise<void>;
  /** Answers when it has come to it: the thread is alive. */
  ping(): Promise<void>;
  /** Keeps one chunk of what is too large to be in memory at once; the first begins anew. */
  chunk(sha256: string, seq: number, bytes: Uint8Array, nowMs: number): Promise<void>;
  /** Lets bytes go that were last written before then. */
  remove(sha256: string, beforeMs: number): Promise<void>;
}

/** Does it here and now. */
export function createInlineBytesWork(db: Database): BytesWork {
  const insertPart = db.prepare<[string, string, number, number, Uint8Array]>(
    'INSERT INTO upload_part (owner_id, sha256, seq, at_ms, data) VALUES (?, ?, ?, ?, ?) ON CONFLICT (owner_id, sha256, seq) DO UPDATE SET data = excluded.data, at_ms = excluded.at_ms',
  );
  const parts = db.prepare<[string, string], { data: Buffer }>(
    'SELECT data FROM upload_part WHERE owner_id = ? AND sha256 = ? ORDER BY seq',
  );
  const dropParts = db.prepare<[string, string]>('DELETE FROM upload_part WHERE owner_id = ? AND sha256 = ?');
  const dropPartsBefore = db.prepare<[number]>('DELETE FROM upload_part WHERE at_ms < ?');
  const insert = db.prepare<[string, number]>(
    'INSERT INTO body (sha256, put_at_ms) VALUES (?, ?) ON CONFLICT DO NOTHING',
  );
  const touch = db.prepare<[number, string]>('UPDATE body SET put_at_ms = ? WHERE sha256 = ?');
  const insertChunk = db.prepare<[string, number, Uint8Array]>(
    'INSERT INTO chunk (sha256, seq, data) VALUES (?, ?, ?)',
  );
  const drop = db.prepare<[string, number]>('DELETE FROM body WHERE sha256 = ? AND put_at_ms < ?');
  const held = db.prepare<[string], { bytes: number | null }>(
    'SELECT sum(length(data)) AS bytes FROM chunk WHERE sha256 = ?',
  );
  const dropChunks = db.prepare<[string]>('DELETE FROM chunk WHERE sha256 = ?');
  const write = db.transaction((sha256: string, bytes: Uint8Array, nowMs: number) => {
    if (insert.run(sha256, nowMs).changes === 0) {
      touch.run(nowMs, sha256);
      if (held.get(sha256)?.bytes === bytes.length) return;
      dropChunks.run(sha256);
    }
    for (let seq = 0; seq * CHUNK_BYTES < bytes.length; seq++)
      insertChunk.run(sha256, seq, bytes.subarray(seq * CHUNK_BYTES, (seq + 1) * CHUNK_BYTES));
  });
  const writeChunk = db.transaction((sha256: string, seq: number, bytes: Uint8Array, nowMs: number) => {
    if (insert.run(sha256, nowMs).changes === 0) touch.run(nowMs, sha256);
    if (seq === 0) dropChunks.run(sha256);
    insertChunk.run(sha256, seq, bytes);
  });
  return {
    part: (ownerId, sha256, seq, bytes, nowMs) =>
      Promise.resolve(void insertPart.run(ownerId, sha256, seq, nowMs, bytes)),
    join(ownerId, sha256) {
      const bytes = Buffer.concat(parts.all(ownerId, sha256).map(({ data }) => data));
      return Promise.resolve({ bytes, sha256: createHash('sha256').update(bytes).digest('hex') });
    },
    forget: (ownerId, sha256) => Promise.resolve(void dropParts.run(ownerId, sha256)),
    forgetBefore: (beforeMs) => Promise.resolve(dropPartsBefore.run(beforeMs).changes),
    write: (sha256, bytes, nowMs) => Promise.resolve(write.immediate(sha256, bytes, nowMs)),
    chunk: (sha256, seq, bytes, nowMs) => Promise.resolve(writeChunk.immediate(sha256, seq, bytes, nowMs)),
    ping: () => Promise.resolve(),
    remove: (sha256, beforeMs) => Promise.resolve(void drop.run(sha256, beforeMs)),
  };
}
