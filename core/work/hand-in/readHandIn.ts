import { SHOT_FINDINGS, type ShotFinding } from '../../imaging/quality/shotFindings';
import { readRecipe } from '../recipe/recipe';
import { readBindSettings } from './bindSettings';
import type { HandIn, Page } from './handIn';

/** As an earlier Fotoplan kept them: what came later may be missing, and what was deleted had no time. */
type StoredPage = Partial<Page> &
  Pick<Page, 'id' | 'originalId' | 'fileName' | 'width' | 'height' | 'recipe'> & { readonly removed?: boolean };
export type StoredHandIn = Omit<Partial<HandIn>, 'pages'> &
  Pick<HandIn, 'id' | 'title' | 'paper' | 'createdAtMs' | 'changedAtMs'> & {
    readonly removed?: boolean;
    readonly pages: readonly StoredPage[];
  };

/**
 * A hand-in as it was kept by any version so far, brought to today's shape.
 * @throws FotoplanError RECIPE_INVALID where a page's recipe cannot be read
 */
export function readHandIn({ removed, ...stored }: StoredHandIn): HandIn {
  return {
    id: stored.id,
    title: stored.title,
    paper: stored.paper,
    binding: readBindSettings(stored.binding),
    assignmentId: stored.assignmentId ?? null,
    createdAtMs: stored.createdAtMs,
    changedAtMs: stored.changedAtMs,
    removedAtMs: stored.removedAtMs ?? (removed === true ? stored.changedAtMs : null),
    pages: stored.pages.map((page) => readPage(page, stored.changedAtMs)),
    deletedPageIds: stored.deletedPageIds ?? [],
  };
}

function readPage({ removed, ...stored }: StoredPage, changedAtMs: number): Page {
  return {
    id: stored.id,
    originalId: stored.originalId,
    fileName: stored.fileName,
    width: stored.width,
    height: stored.height,
    pdfPage: stored.pdfPage ?? null,
    recipe: readRecipe(stored.recipe),
    takenAtMs: stored.takenAtMs ?? null,
    leftOut: stored.leftOut ?? false,
    removedAtMs: stored.removedAtMs ?? (removed === true ? changedAtMs : null),
    findings: readFindings(stored.findings),
  };
}

/** Findings from a later version that are not known here are left out. */
export const readFindings = (stored: unknown): Page['findings'] =>
  Array.isArray(stored)
    ? stored.filter((each): each is ShotFinding => SHOT_FINDINGS.includes(each as ShotFinding))
    : null;
