import type { BoundFileFacts, BoundFileView } from '../../contract/views';
import type { Database } from '../database';
import type { BlobStore } from '../blobs/blobStore';

interface Row {
  id: string;
  name: string;
  pages: number;
  sha256: string;
  facts: string;
  bound_at_ms: number;
}

export type BoundFileRepository = ReturnType<typeof createBoundFileRepository>;

export function createBoundFileRepository(db: Database, blobs: BlobStore) {
  const insert = db.prepare<[string, string, string, number, string, number, string, string]>(
    `INSERT INTO bound_file (id, owner_id, hand_in_id, sha256, name, pages, facts, bound_at_ms)
     SELECT ?, owner_id, id, ?, ?, ?, ?, ? FROM hand_in WHERE owner_id = ? AND id = ? ON CONFLICT DO NOTHING`,
  );
  const list = db.prepare<[string, string], Row>(
    'SELECT * FROM bound_file WHERE owner_id = ? AND hand_in_id = ? ORDER BY bound_at_ms DESC, rowid DESC',
  );
  const one = db.prepare<[string, string], Row>('SELECT * FROM bound_file WHERE owner_id = ? AND id = ?');
  const toView = (row: Row): BoundFileView => ({
    id: row.id,
    name: row.name,
    pages: row.pages,
    bytes: blobs.size(row.sha256),
    sha256: row.sha256,
    boundAtMs: row.bound_at_ms,
    facts: JSON.parse(row.facts) as Partial<BoundFileFacts>,
  });
  return {
    /** Its bytes must have been put before. */
    add: (
      ownerId: string,
      handInId: string,
      { id, name, pages, sha256, facts, boundAtMs }: Omit<BoundFileView, 'bytes'>,
    ): void => void insert.run(id, sha256, name, pages, JSON.stringify(facts), boundAtMs, ownerId, handInId),
    list: (ownerId: string, handInId: string): BoundFileView[] => list.all(ownerId, handInId).map(toView),
    find(ownerId: string, id: string): BoundFileView | null {
      const row = one.get(ownerId, id);
      return row === undefined ? null : toView(row);
    },
  };
}
