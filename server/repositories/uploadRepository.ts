import type { BytesWork } from '../blobs/bytesWork';
import type { Database } from '../database';

export type UploadRepository = ReturnType<typeof createUploadRepository>;

/** Originals on their way, part by part, each owner's apart from all others': until it is whole nobody knows whether it is what it says. */
export function createUploadRepository(bytesFile: Database, work: BytesWork) {
  const seqs = bytesFile.prepare<[string, string], { seq: number }>(
    'SELECT seq FROM upload_part WHERE owner_id = ? AND sha256 = ? ORDER BY seq',
  );
  const piece = bytesFile.prepare<[string, string, number], { data: Buffer }>(
    'SELECT data FROM upload_part WHERE owner_id = ? AND sha256 = ? AND seq = ?',
  );
  return {
    /** The parts of an upload, one at a time. */
    async *pieces(ownerId: string, sha256: string): AsyncGenerator<Uint8Array> {
      for (let seq = 0; ; seq++) {
        const row = piece.get(ownerId, sha256, seq);
        if (row === undefined) return;
        yield row.data;
        await Promise.resolve();
      }
    },
    put: (ownerId: string, sha256: string, seq: number, bytes: Uint8Array, nowMs: number): Promise<void> =>
      work.part(ownerId, sha256, seq, bytes, nowMs),
    parts: (ownerId: string, sha256: string): number[] => seqs.all(ownerId, sha256).map(({ seq }) => seq),
    join: (ownerId: string, sha256: string) => work.join(ownerId, sha256),
    drop: (ownerId: string, sha256: string): Promise<void> => work.forget(ownerId, sha256),
  };
}
