import type { PictureSize } from '../../contract/pictures';
import type { Database } from '../database';

export type PictureRepository = ReturnType<typeof createPictureRepository>;

/** Small pictures of originals, made by the device that brought them: other screens show them without fetching the originals. */
export function createPictureRepository(db: Database) {
  const insert = db.prepare<[string, string, number, string, string]>(
    'INSERT INTO picture (owner_id, original_sha256, pdf_page, size, sha256) VALUES (?, ?, ?, ?, ?) ON CONFLICT DO UPDATE SET sha256 = excluded.sha256',
  );
  const find = db.prepare<[string, string, number, string], { sha256: string }>(
    'SELECT sha256 FROM picture WHERE owner_id = ? AND original_sha256 = ? AND pdf_page = ? AND size = ?',
  );
  const copy = db.prepare<[string, string]>(
    'INSERT INTO picture (owner_id, original_sha256, pdf_page, size, sha256) SELECT ?, original_sha256, pdf_page, size, sha256 FROM picture WHERE owner_id = ? ON CONFLICT DO NOTHING',
  );
  return {
    /** Its bytes must have been put before. */
    add: (ownerId: string, originalId: string, pdfPage: number, size: PictureSize, sha256: string): void =>
      void insert.run(ownerId, originalId, pdfPage, size, sha256),
    /** The SHA-256 of the picture's bytes, or null. */
    find: (ownerId: string, originalId: string, pdfPage: number, size: PictureSize): string | null =>
      find.get(ownerId, originalId, pdfPage, size)?.sha256 ?? null,
    /** Lets one owner see what another has; only the demo does this, for its own photos. */
    share: (fromOwnerId: string, toOwnerId: string): void => void copy.run(toOwnerId, fromOwnerId),
  };
}
