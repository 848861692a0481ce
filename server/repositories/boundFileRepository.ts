import type { BoundFileView } from '../../contract/views';
import type { Database } from '../database';
import type { BlobRepository } from './blobRepository';

interface Row {
  id: string;
  name: string;
  pages: number;
  sha256: string;
  bound_at_ms: number;
}

export type BoundFileRepository = ReturnType<typeof createBoundFileRepository>;

export function createBoundFileRepository(db: Database, blobs: BlobRepository) {
  const insert = db.prepare<[string, string, string, string, string, number, number]>(
    'INSERT INTO bound_file (id, owner_id, hand_in_id, sha256, name, pages, bound_at_ms) VALUES (?, ?, ?, ?, ?, ?, ?) ON CONFLICT DO NOTHING',
  );
  const list = db.prepare<[string, string], Row>('SELECT * FROM bound_file WHERE owner_id = ? AND hand_in_id = ? ORDER BY bound_at_ms DESC');
  const one = db.prepare<[string, string], Row>('SELECT * FROM bound_file WHERE owner_id = ? AND id = ?');
  const toView = (row: Row): BoundFileView => ({
    id: row.id,
    name: row.name,
    pages: row.pages,
    bytes: blobs.size(row.sha256),
    sha256: row.sha256,
    boundAtMs: row.bound_at_ms,
  });
  return {
    add: db.transaction((ownerId: string, handInId: string, file: Omit<BoundFileView, 'bytes'>, bytes: Uint8Array) => {
      blobs.put(file.sha256, bytes);
      insert.run(file.id, ownerId, handInId, file.sha256, file.name, file.pages, file.boundAtMs);
    }),
    list: (ownerId: string, handInId: string): BoundFileView[] => list.all(ownerId, handInId).map(toView),
    find(ownerId: string, id: string): BoundFileView | null {
      const row = one.get(ownerId, id);
      return row === undefined ? null : toView(row);
    },
  };
}
