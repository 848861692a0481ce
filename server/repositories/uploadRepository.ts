import type { Database } from '../database';

export type UploadRepository = ReturnType<typeof createUploadRepository>;

/** Originals on their way, part by part, each owner's apart from all others': until it is whole nobody knows whether it is what it says. */
export function createUploadRepository(db: Database) {
  const insert = db.prepare<[string, string, number, number, Uint8Array]>('INSERT INTO upload_part (owner_id, sha256, seq, at_ms, data) VALUES (?, ?, ?, ?, ?) ON CONFLICT (owner_id, sha256, seq) DO UPDATE SET data = excluded.data, at_ms = excluded.at_ms');
  const seqs = db.prepare<[string, string], { seq: number }>('SELECT seq FROM upload_part WHERE owner_id = ? AND sha256 = ? ORDER BY seq');
  const data = db.prepare<[string, string], { data: Buffer }>('SELECT data FROM upload_part WHERE owner_id = ? AND sha256 = ? ORDER BY seq');
  const drop = db.prepare<[string, string]>('DELETE FROM upload_part WHERE owner_id = ? AND sha256 = ?');
  return {
    put: (ownerId: string, sha256: string, seq: number, bytes: Uint8Array, nowMs: number): void => void insert.run(ownerId, sha256, seq, nowMs, bytes),
    parts: (ownerId: string, sha256: string): number[] => seqs.all(ownerId, sha256).map(({ seq }) => seq),
    join: (ownerId: string, sha256: string): Buffer => Buffer.concat(data.all(ownerId, sha256).map((row) => row.data)),
    drop: (ownerId: string, sha256: string): void => void drop.run(ownerId, sha256),
  };
}
