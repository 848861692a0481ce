import type { OriginalFacts } from '../../core/photo/checkPhotoFile';
import type { Database } from '../database';
import type { BlobRepository } from './blobRepository';

export type OriginalRepository = ReturnType<typeof createOriginalRepository>;

export function createOriginalRepository(db: Database, blobs: BlobRepository) {
  const insert = db.prepare<[string, string, string, number, number]>(
    'INSERT INTO original (owner_id, sha256, type, width, height) VALUES (?, ?, ?, ?, ?) ON CONFLICT DO NOTHING',
  );
  const find = db.prepare<[string, string], { type: string }>('SELECT type FROM original WHERE owner_id = ? AND sha256 = ?');
  const copy = db.prepare<[string, string]>('INSERT INTO original (owner_id, sha256, type, width, height) SELECT ?, sha256, type, width, height FROM original WHERE owner_id = ? ON CONFLICT DO NOTHING');
  return {
    add: db.transaction((ownerId: string, sha256: string, bytes: Uint8Array, facts: OriginalFacts) => {
      blobs.put(sha256, bytes);
      insert.run(ownerId, sha256, facts.type, facts.width, facts.height);
    }),
    type: (ownerId: string, sha256: string): string | null => find.get(ownerId, sha256)?.type ?? null,
    /** Lets one owner see what another has; only the demo does this, for its own photos. */
    share: (fromOwnerId: string, toOwnerId: string): void => void copy.run(toOwnerId, fromOwnerId),
  };
}
