import { PLAIN_BINDING, type BindSettings } from '../../core/handIn/bindSettings';
import type { HandIn, Page } from '../../core/handIn/handIn';
import type { Paper } from '../../core/pdf/paperSize';
import { readRecipe } from '../../core/recipe/recipe';
import type { Database } from '../database';

interface HandInRow {
  id: string;
  title: string;
  paper: Paper;
  binding: string;
  assignment_id: string | null;
  removed: number;
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
  removed: number;
}

export type HandInRepository = ReturnType<typeof createHandInRepository>;

export function createHandInRepository(db: Database) {
  const all = db.prepare<[string], HandInRow>('SELECT * FROM hand_in WHERE owner_id = ? AND removed = 0 ORDER BY changed_at_ms DESC');
  const one = db.prepare<[string, string], HandInRow>('SELECT * FROM hand_in WHERE owner_id = ? AND id = ?');
  const pagesOf = db.prepare<[string, string], PageRow>('SELECT * FROM page WHERE owner_id = ? AND hand_in_id = ? ORDER BY position');
  const upsert = db.prepare<[string, string, string, string, string, string | null, number, number, number]>(
    `INSERT INTO hand_in (id, owner_id, title, paper, binding, assignment_id, removed, created_at_ms, changed_at_ms) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)
     ON CONFLICT (id) DO UPDATE SET title = excluded.title, paper = excluded.paper, binding = excluded.binding, assignment_id = excluded.assignment_id, removed = excluded.removed, changed_at_ms = excluded.changed_at_ms, sample = 0
     WHERE owner_id = excluded.owner_id`,
  );
  const upsertPage = db.prepare<[string, string, string, number, string, string, number, number, number | null, string, number | null, number, number]>(
    `INSERT INTO page (id, hand_in_id, owner_id, position, original_sha256, file_name, width, height, pdf_page, recipe, taken_at_ms, left_out, removed) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
     ON CONFLICT (hand_in_id, id) DO UPDATE SET position = excluded.position, original_sha256 = excluded.original_sha256, file_name = excluded.file_name, width = excluded.width, height = excluded.height,
       pdf_page = excluded.pdf_page, recipe = excluded.recipe, taken_at_ms = excluded.taken_at_ms, left_out = excluded.left_out, removed = excluded.removed
     WHERE owner_id = excluded.owner_id`,
  );
  const markSample = db.prepare<[string, string]>('UPDATE hand_in SET sample = 1 WHERE owner_id = ? AND id = ?');
  const toPage = (row: PageRow): Page => ({
    id: row.id,
    originalId: row.original_sha256,
    fileName: row.file_name,
    width: row.width,
    height: row.height,
    pdfPage: row.pdf_page,
    recipe: readRecipe(JSON.parse(row.recipe)),
    takenAtMs: row.taken_at_ms,
    leftOut: row.left_out === 1,
    removed: row.removed === 1,
  });
  const toHandIn = (ownerId: string, row: HandInRow): HandIn => ({
    id: row.id,
    title: row.title,
    paper: row.paper,
    binding: { ...PLAIN_BINDING, ...(JSON.parse(row.binding) as Partial<BindSettings>) },
    assignmentId: row.assignment_id,
    removed: row.removed === 1,
    createdAtMs: row.created_at_ms,
    changedAtMs: row.changed_at_ms,
    pages: pagesOf.all(ownerId, row.id).map(toPage),
  });
  return {
    list: (ownerId: string): HandIn[] => all.all(ownerId).map((row) => toHandIn(ownerId, row)),
    find(ownerId: string, id: string): HandIn | null {
      const row = one.get(ownerId, id);
      return row === undefined ? null : toHandIn(ownerId, row);
    },
    /** Nobody has worked on it yet: it need not come along when its owner joins another. */
    markSample: (ownerId: string, id: string): void => void markSample.run(ownerId, id),
    /** Writes the hand-in as it is now; false when the id is another owner's. Call inside a transaction. */
    save(ownerId: string, handIn: HandIn, before: HandIn | null): boolean {
      const { id, title, paper, binding, assignmentId, removed, createdAtMs, changedAtMs } = handIn;
      if (upsert.run(id, ownerId, title, paper, JSON.stringify(binding), assignmentId, removed ? 1 : 0, createdAtMs, changedAtMs).changes === 0) return false;
      handIn.pages.forEach((page, position) => {
        if (before?.pages[position] === page) return;
        upsertPage.run(page.id, id, ownerId, position, page.originalId, page.fileName, page.width, page.height, page.pdfPage, JSON.stringify(page.recipe), page.takenAtMs, page.leftOut ? 1 : 0, page.removed ? 1 : 0);
      });
      return true;
    },
  };
}
