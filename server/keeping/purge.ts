import { applyOperation } from '../../core/work/hand-in/operation';
import type { Database } from '../database';
import { createChangeRepository } from '../repositories/changeRepository';
import { createHandInRepository } from '../repositories/handInRepository';

/** How long what a person deleted can be restored; by this server's clock, whatever a device's clock says. */
export const RESTORABLE_MS = 30 * 24 * 3600 * 1000;

/** Deletes for good what was deleted long ago. @returns how many pages and hand-ins */
export function purgeDeleted(db: Database, nowMs: number): number {
  const changes = createChangeRepository(db);
  const handIns = createHandInRepository(db);
  const before = nowMs - RESTORABLE_MS;
  return db.transaction(() => {
    // what an earlier version kept as deleted had no time by this clock: it begins now
    for (const table of ['hand_in', 'page'])
      db.prepare<[number]>(
        `UPDATE ${table} SET removed_seen_ms = ? WHERE removed_at_ms IS NOT NULL AND removed_seen_ms IS NULL`,
      ).run(nowMs);
    const oldHandIns = db
      .prepare<[number], { owner_id: string; id: string }>('SELECT owner_id, id FROM hand_in WHERE removed_seen_ms < ?')
      .all(before);
    for (const { owner_id, id } of oldHandIns) {
      handIns.deleteForGood(owner_id, id, nowMs);
      changes.note(owner_id, 'handIn', id);
    }
    const oldPages = db
      .prepare<[number], { owner_id: string; hand_in_id: string; id: string }>(
        'SELECT owner_id, hand_in_id, id FROM page WHERE removed_seen_ms < ?',
      )
      .all(before);
    for (const { owner_id, hand_in_id: handInId, id: pageId } of oldPages) {
      const handIn = handIns.find(owner_id, handInId)!;
      const after = applyOperation(handIn, {
        kind: 'deletePage',
        id: `purge-${pageId}`,
        handInId,
        pageId,
        atMs: handIn.changedAtMs,
      })!;
      handIns.save(owner_id, after, handIn, nowMs);
      changes.note(owner_id, 'handIn', handInId);
    }
    return oldHandIns.length + oldPages.length;
  })();
}
