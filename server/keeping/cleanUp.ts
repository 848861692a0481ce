import type { BlobStore } from '../blobs/blobStore';
import type { BytesWork } from '../blobs/bytesWork';
import type { Database } from '../database';
import { createOfficeRepository } from '../office/officeRepository';
import { purgeDeleted } from './purge';

const DAY_MS = 24 * 3600 * 1000;
/** Bytes that nobody refers to yet may be on their way to being referred to. */
const UNREFERRED_KEPT_MS = DAY_MS;
const PARTS_KEPT_MS = DAY_MS;
/** Somebody who kept nothing and was not here for so long is forgotten. */
const EMPTY_OWNERS_KEPT_MS = 30 * DAY_MS;
/** Of each hand-in the latest files stay; the office keeps what was handed in to it. */
const FILES_KEPT = 3;

export interface CleanedUp {
  /** Pages and hand-ins deleted long ago, now for good. */
  readonly purged: number;
  readonly boundFiles: number;
  readonly originals: number;
  readonly blobs: number;
  readonly parts: number;
  readonly owners: number;
}

/** All that a server keeps. */
export interface Kept {
  readonly db: Database;
  readonly college: { readonly office: Database };
  readonly blobs: BlobStore;
  readonly bytesWork: Pick<BytesWork, 'forgetBefore'>;
}

/**
 * Throws away what nobody can come back to: older bound files of a hand-in, originals that no page shows (deleted pages
 * count as pages for 30 days: they can be restored), bytes that nothing refers to, uploads given up. Never anything referred to.
 */
export async function cleanUp({ db, college, blobs, bytesWork }: Kept, nowMs: number): Promise<CleanedUp> {
  const dropRows = db.transaction(() => {
    const boundFiles = db
      .prepare<[number]>(
        'DELETE FROM bound_file WHERE id IN (SELECT id FROM (SELECT id, row_number() OVER (PARTITION BY owner_id, hand_in_id ORDER BY bound_at_ms DESC, rowid DESC) AS n FROM bound_file) WHERE n > ?)',
      )
      .run(FILES_KEPT).changes;
    // a demo's owner shares its originals with newcomers
    const originals = db
      .prepare<[number]>(
        `DELETE FROM original WHERE NOT EXISTS (SELECT 1 FROM page WHERE page.owner_id = original.owner_id AND page.original_sha256 = original.sha256)
         AND coalesce(let_go_at_ms, (SELECT put_at_ms FROM blob WHERE blob.sha256 = original.sha256)) < ?`,
      )
      .run(nowMs - UNREFERRED_KEPT_MS).changes;
    db.prepare<[number]>(
      `DELETE FROM picture WHERE NOT EXISTS (SELECT 1 FROM page WHERE page.owner_id = picture.owner_id AND page.original_sha256 = picture.original_sha256)
       AND (SELECT put_at_ms FROM blob WHERE blob.sha256 = picture.sha256) < ?`,
    ).run(nowMs - UNREFERRED_KEPT_MS);
    return { boundFiles, originals };
  });
  const purged = purgeDeleted(db, nowMs);
  const rows = dropRows();
  const owners = dropEmptyOwners(db, nowMs - EMPTY_OWNERS_KEPT_MS);
  const office = createOfficeRepository(college.office);
  office.dropEndedSessions(nowMs);
  office.settle(nowMs);
  return {
    purged,
    ...rows,
    owners,
    blobs: await blobs.removeUnreferred(nowMs - UNREFERRED_KEPT_MS),
    parts: await bytesWork.forgetBefore(nowMs - PARTS_KEPT_MS),
  };
}

/** Those who looked in and kept nothing. Whoever deleted everything stays known by their devices' keys, so that none brings it back. */
function dropEmptyOwners(db: Database, beforeMs: number): number {
  const isEmpty = ['hand_in', 'original', 'profile', 'recovery_code', 'gone_hand_in']
    .map((table) => `NOT EXISTS (SELECT 1 FROM ${table} WHERE owner_id = owner.id)`)
    .join(' AND ');
  return db
    .prepare<{ beforeMs: number }>(
      `DELETE FROM owner WHERE erased_at_ms IS NULL AND created_at_ms < @beforeMs AND NOT EXISTS (SELECT 1 FROM screen WHERE owner_id = owner.id AND (seen_at_ms >= @beforeMs OR cut_off = 1)) AND ${isEmpty}`,
    )
    .run({ beforeMs }).changes;
}
