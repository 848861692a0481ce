import { FotoplanError } from '../../core/errors';
import type { Database } from '../database';

export interface UsageRepository {
  /**
   * @param bytes - that are to be added
   * @param uploadOf - an upload whose parts go when they are added
   * @throws FotoplanError QUOTA_FULL
   */
  refuseBeyondQuota(ownerId: string, bytes: number, uploadOf?: string): void;
}

/** What all that one owner has weighs together: photos, their small pictures, uploads on their way and bound files. */
export function createUsageRepository(db: Database, bytesFile: Database, quotaBytes: number): UsageRepository {
  const kept = db.prepare<[string, string, string], { bytes: number }>(
    `SELECT coalesce((SELECT sum(bytes) FROM original JOIN blob USING (sha256) WHERE owner_id = ? AND let_go_at_ms IS NULL), 0)
       + coalesce((SELECT sum(blob.bytes) FROM picture JOIN blob USING (sha256) WHERE owner_id = ?), 0)
       + coalesce((SELECT sum(blob.bytes) FROM bound_file JOIN blob USING (sha256) WHERE owner_id = ?), 0) AS bytes`,
  );
  const coming = bytesFile.prepare<[string, string], { bytes: number | null }>(
    'SELECT sum(length(data)) AS bytes FROM upload_part WHERE owner_id = ? AND sha256 <> ?',
  );
  return {
    refuseBeyondQuota(ownerId, bytes, uploadOf = '') {
      const used = kept.get(ownerId, ownerId, ownerId)!.bytes + (coming.get(ownerId, uploadOf)?.bytes ?? 0);
      if (used + bytes > quotaBytes)
        throw new FotoplanError(
          'QUOTA_FULL',
          `Your ${quotaBytes / 1e9} GB here are full. Export old hand-ins as a zip, then delete them.`,
        );
    },
  };
}
