import type { OriginalFacts } from '../../core/work/photo/checkPhotoFile';
import type { Database } from '../database';

export type OriginalRepository = ReturnType<typeof createOriginalRepository>;

export function createOriginalRepository(db: Database) {
  const insert = db.prepare<[string, string, string, number, number]>(
    'INSERT INTO original (owner_id, sha256, type, width, height) VALUES (?, ?, ?, ?, ?) ON CONFLICT DO UPDATE SET let_go_at_ms = NULL',
  );
  const show = db.prepare<[string, string]>(
    'UPDATE original SET let_go_at_ms = NULL WHERE owner_id = ? AND sha256 = ? AND let_go_at_ms IS NOT NULL',
  );
  const find = db.prepare<[string, string], { type: string }>(
    'SELECT type FROM original WHERE owner_id = ? AND sha256 = ?',
  );
  const copy = db.prepare<[string, string]>(
    'INSERT INTO original (owner_id, sha256, type, width, height) SELECT ?, sha256, type, width, height FROM original WHERE owner_id = ? ON CONFLICT DO NOTHING',
  );
  return {
    /** Its bytes must have been put before. */
    add: (ownerId: string, sha256: string, facts: OriginalFacts): void =>
      void insert.run(ownerId, sha256, facts.type, facts.width, facts.height),
    type: (ownerId: string, sha256: string): string | null => find.get(ownerId, sha256)?.type ?? null,
    /** A page shows it: it is not to be let go. */
    show: (ownerId: string, sha256: string): void => void show.run(ownerId, sha256),
    /** Lets one owner see what another has; only the demo does this, for its own photos. */
    share: (fromOwnerId: string, toOwnerId: string): void => void copy.run(toOwnerId, fromOwnerId),
  };
}
