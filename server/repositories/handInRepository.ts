import type { BindSettings } from '../../core/work/hand-in/bindSettings';
import type { HandIn, Page } from '../../core/work/hand-in/handIn';
import { readHandIn } from '../../core/work/hand-in/readHandIn';
import type { Paper } from '../../core/work/paper/paperSize';
import type { Recipe } from '../../core/work/recipe/recipe';
import type { Database } from '../database';

interface HandInRow {
  id: string;
  title: string;
  paper: Paper;
  binding: string;
  assignment_id: string | null;
  removed_at_ms: number | null;
  deleted_pages: string;
  created_at_ms: number;
  changed_at_ms: number;
}

interface PageRow {
  id: string;
  original_sha256: string;
  file_name: string;
  width: number;
  height: number;
  pdf_page: number | null;
  recipe: string;
  taken_at_ms: number | null;
  left_out: number;
  removed_at_ms: number | null;
  findings: string | null;
}

export type HandInRepository = ReturnType<typeof createHandInRepository>;

export function createHandInRepository(db: Database) {
  const all = db.prepare<[string], HandInRow>('SELECT * FROM hand_in WHERE owner_id = ? ORDER BY changed_at_ms DESC');
  const one = db.prepare<[string, string], HandInRow>('SELECT * FROM hand_in WHERE owner_id = ? AND id = ?');
  const pagesOf = db.prepare<[string, string], PageRow>(
    'SELECT * FROM page WHERE owner_id = ? AND hand_in_id = ? ORDER BY position',
  );
  const upsert = db.prepare<Record<string, string | number | null>>(
    `INSERT INTO hand_in (id, owner_id, title, paper, binding, assignment_id, removed_at_ms, removed_seen_ms, deleted_pages, created_at_ms, changed_at_ms)
     VALUES (@id, @ownerId, @title, @paper, @binding, @assignmentId, @removedAtMs, iif(@removedAtMs IS NULL, NULL, @nowMs), @deletedPages, @createdAtMs, @changedAtMs)
     ON CONFLICT (id) DO UPDATE SET title = excluded.title, paper = excluded.paper, binding = excluded.binding, assignment_id = excluded.assignment_id,
       removed_at_ms = excluded.removed_at_ms, removed_seen_ms = iif(excluded.removed_at_ms IS NULL, NULL, coalesce(removed_seen_ms, excluded.removed_seen_ms)),
       deleted_pages = excluded.deleted_pages, changed_at_ms = excluded.changed_at_ms, sample = 0
     WHERE owner_id = excluded.owner_id`,
  );
  const upsertPage = db.prepare<Record<string, string | number | null>>(
    `INSERT INTO page (id, hand_in_id, owner_id, position, original_sha256, file_name, width, height, pdf_page, recipe, taken_at_ms, left_out, removed_at_ms, removed_seen_ms, findings)
     VALUES (@id, @handInId, @ownerId, @position, @originalId, @fileName, @width, @height, @pdfPage, @recipe, @takenAtMs, @leftOut, @removedAtMs, iif(@removedAtMs IS NULL, NULL, @nowMs), @findings)
     ON CONFLICT (hand_in_id, id) DO UPDATE SET position = excluded.position, original_sha256 = excluded.original_sha256, file_name = excluded.file_name, width = excluded.width, height = excluded.height,
       pdf_page = excluded.pdf_page, recipe = excluded.recipe, taken_at_ms = excluded.taken_at_ms, left_out = excluded.left_out, removed_at_ms = excluded.removed_at_ms,
       removed_seen_ms = iif(excluded.removed_at_ms IS NULL, NULL, coalesce(removed_seen_ms, excluded.removed_seen_ms)), findings = excluded.findings
     WHERE owner_id = excluded.owner_id`,
  );
  const deletePage = db.prepare<[string, string, string]>(
    'DELETE FROM page WHERE owner_id = ? AND hand_in_id = ? AND id = ?',
  );
  const deleteHandIn = db.prepare<[string, string]>('DELETE FROM hand_in WHERE owner_id = ? AND id = ?');
  const noteGone = db.prepare<[string, string]>(
    'INSERT INTO gone_hand_in (owner_id, id) VALUES (?, ?) ON CONFLICT DO NOTHING',
  );
  const isGone = db.prepare<[string, string], { id: string }>(
    'SELECT id FROM gone_hand_in WHERE owner_id = ? AND id = ?',
  );
  const letGo = db.prepare<[number, string, string]>(
    'UPDATE original SET let_go_at_ms = ? WHERE owner_id = ? AND sha256 = ? AND NOT EXISTS (SELECT 1 FROM page WHERE page.owner_id = original.owner_id AND page.original_sha256 = original.sha256)',
  );
  const markSample = db.prepare<[string, string]>('UPDATE hand_in SET sample = 1 WHERE owner_id = ? AND id = ?');
  const toPage = (row: PageRow): Page => ({
    id: row.id,
    originalId: row.original_sha256,
    fileName: row.file_name,
    width: row.width,
    height: row.height,
    pdfPage: row.pdf_page,
    recipe: JSON.parse(row.recipe) as Recipe,
    takenAtMs: row.taken_at_ms,
    leftOut: row.left_out === 1,
    removedAtMs: row.removed_at_ms,
    findings: row.findings === null ? null : (JSON.parse(row.findings) as Page['findings']),
  });
  const toHandIn = (ownerId: string, row: HandInRow): HandIn =>
    readHandIn({
      id: row.id,
      title: row.title,
      paper: row.paper,
      binding: JSON.parse(row.binding) as BindSettings,
      assignmentId: row.assignment_id,
      removedAtMs: row.removed_at_ms,
      createdAtMs: row.created_at_ms,
      changedAtMs: row.changed_at_ms,
      pages: pagesOf.all(ownerId, row.id).map(toPage),
      deletedPageIds: JSON.parse(row.deleted_pages) as readonly string[],
    });
  /** Originals that no page of theirs shows any more stop counting at once; the clean-up frees them later, since another screen may be about to show one. */
  const letGoOf = (ownerId: string, originalIds: Iterable<string>, nowMs: number): void => {
    for (const originalId of new Set(originalIds)) letGo.run(nowMs, ownerId, originalId);
  };
  return {
    list: (ownerId: string): HandIn[] => all.all(ownerId).map((row) => toHandIn(ownerId, row)),
    find(ownerId: string, id: string): HandIn | null {
      const row = one.get(ownerId, id);
      return row === undefined ? null : toHandIn(ownerId, row);
    },
    /** Nobody has worked on it yet: it need not come along when its owner joins another. */
    markSample: (ownerId: string, id: string): void => void markSample.run(ownerId, id),
    /** Whether it was deleted for good. */
    isGone: (ownerId: string, id: string): boolean => isGone.get(ownerId, id) !== undefined,
    /** Writes the hand-in as it is now; false when the id is another owner's. Call inside a transaction. */
    save(ownerId: string, handIn: HandIn, before: HandIn | null, nowMs: number): boolean {
      const { id, title, paper, binding, assignmentId, removedAtMs, deletedPageIds, createdAtMs, changedAtMs } = handIn;
      const row = {
        id,
        ownerId,
        title,
        paper,
        binding: JSON.stringify(binding),
        assignmentId,
        removedAtMs,
        deletedPages: JSON.stringify(deletedPageIds),
        createdAtMs,
        changedAtMs,
        nowMs,
      };
      if (upsert.run(row).changes === 0) return false;
      handIn.pages.forEach((page, position) => {
        if (before?.pages[position] === page) return;
        const { recipe, findings, leftOut, ...plain } = page;
        upsertPage.run({
          ...plain,
          handInId: id,
          ownerId,
          position,
          recipe: JSON.stringify(recipe),
          findings: findings === null ? null : JSON.stringify(findings),
          leftOut: leftOut ? 1 : 0,
          nowMs,
        });
      });
      if (before !== null && before.deletedPageIds !== deletedPageIds) {
        const kept = new Set(handIn.pages.map((page) => page.id));
        const dropped = before.pages.filter((page) => !kept.has(page.id));
        for (const page of dropped) deletePage.run(ownerId, id, page.id);
        letGoOf(
          ownerId,
          dropped.map(({ originalId }) => originalId),
          nowMs,
        );
      }
      return true;
    },
    /** Deletes it with its pages and files, and remembers that it is gone. Call inside a transaction. */
    deleteForGood(ownerId: string, id: string, nowMs: number): void {
      const originalIds = pagesOf.all(ownerId, id).map(({ original_sha256 }) => original_sha256);
      deleteHandIn.run(ownerId, id);
      noteGone.run(ownerId, id);
      letGoOf(ownerId, originalIds, nowMs);
    },
  };
}
