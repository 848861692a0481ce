import type { Paper } from '../pdf/paperSize';
import type { Recipe } from '../recipe/recipe';
import type { HandIn, Page } from './handIn';

interface OperationBase {
  /** Unique; an operation that arrives twice is applied once. */
  readonly id: string;
  readonly handInId: string;
  readonly atMs: number;
}

export interface CreateHandIn extends OperationBase {
  readonly kind: 'createHandIn';
  readonly title: string;
  readonly paper: Paper;
}
export interface ChangeHandIn extends OperationBase {
  readonly kind: 'changeHandIn';
  readonly title?: string;
  readonly paper?: Paper;
  readonly removed?: boolean;
}
/** What a page shows: an original, or one page of it, with its recipe. */
export interface PageSource {
  readonly originalId: string;
  readonly fileName: string;
  readonly width: number;
  readonly height: number;
  /** Left out where the original is no PDF. */
  readonly pdfPage?: number;
  readonly recipe: Recipe;
}
export interface AddPage extends OperationBase, PageSource {
  readonly kind: 'addPage';
  readonly pageId: string;
  /** The page it comes to stand behind; left out, or no longer there: the end. */
  readonly afterPageId?: string;
}
/** Another photo in the same place: a page shot again. */
export interface ReplaceOriginal extends OperationBase, PageSource {
  readonly kind: 'replaceOriginal';
  readonly pageId: string;
}
export interface SetRecipe extends OperationBase {
  readonly kind: 'setRecipe';
  readonly pageId: string;
  readonly recipe: Recipe;
}
export interface MovePage extends OperationBase {
  readonly kind: 'movePage';
  readonly pageId: string;
  /** The page it comes to stand behind, or null for the front. */
  readonly afterPageId: string | null;
}
export interface RemovePage extends OperationBase {
  readonly kind: 'removePage';
  readonly pageId: string;
}
export interface RestorePage extends OperationBase {
  readonly kind: 'restorePage';
  readonly pageId: string;
}

export type Operation = CreateHandIn | ChangeHandIn | AddPage | ReplaceOriginal | SetRecipe | MovePage | RemovePage | RestorePage;
export type OperationKind = Operation['kind'];

/**
 * What a hand-in is after an operation. Client and server both run this, so they cannot disagree. An operation on a page
 * that is not there changes nothing: another screen may have been quicker.
 * @param handIn - null before its first operation
 * @returns null when the operation needs a hand-in that does not exist
 */
export function applyOperation(handIn: HandIn | null, operation: Operation): HandIn | null {
  if (operation.kind === 'createHandIn') return handIn ?? created(operation);
  if (handIn === null) return null;
  const next = changed(handIn, operation);
  return next === handIn ? handIn : { ...next, changedAtMs: Math.max(handIn.changedAtMs, operation.atMs) };
}

const created = ({ handInId, title, paper, atMs }: CreateHandIn): HandIn => ({
  id: handInId,
  title,
  paper,
  createdAtMs: atMs,
  changedAtMs: atMs,
  removed: false,
  pages: [],
});

function changed(handIn: HandIn, operation: Exclude<Operation, CreateHandIn>): HandIn {
  switch (operation.kind) {
    case 'changeHandIn':
      return { ...handIn, title: operation.title ?? handIn.title, paper: operation.paper ?? handIn.paper, removed: operation.removed ?? handIn.removed };
    case 'addPage': {
      if (handIn.pages.some((page) => page.id === operation.pageId)) return handIn;
      const after = handIn.pages.findIndex((page) => page.id === operation.afterPageId);
      const at = after < 0 ? handIn.pages.length : after + 1;
      return { ...handIn, pages: handIn.pages.toSpliced(at, 0, { id: operation.pageId, ...sourceOf(operation), removed: false }) };
    }
    case 'replaceOriginal':
      return withPage(handIn, operation.pageId, (page) => ({ ...page, ...sourceOf(operation) }));
    case 'setRecipe':
      return withPage(handIn, operation.pageId, (page) => ({ ...page, recipe: operation.recipe }));
    case 'removePage':
      return withPage(handIn, operation.pageId, (page) => ({ ...page, removed: true }));
    case 'restorePage':
      return withPage(handIn, operation.pageId, (page) => ({ ...page, removed: false }));
    case 'movePage':
      return { ...handIn, pages: movePage(handIn.pages, operation.pageId, operation.afterPageId) };
  }
}

const sourceOf = ({ originalId, fileName, width, height, pdfPage, recipe }: PageSource): Omit<Page, 'id' | 'removed'> => ({ originalId, fileName, width, height, pdfPage: pdfPage ?? null, recipe });

function withPage(handIn: HandIn, pageId: string, change: (page: Page) => Page): HandIn {
  return handIn.pages.some((page) => page.id === pageId) ? { ...handIn, pages: handIn.pages.map((page) => (page.id === pageId ? change(page) : page)) } : handIn;
}

/** The order with one page set behind another, or at the front for null; unchanged when either is missing. */
export function movePage(pages: readonly Page[], pageId: string, afterPageId: string | null): readonly Page[] {
  const moving = pages.find((page) => page.id === pageId);
  if (moving === undefined || pageId === afterPageId) return pages;
  const rest = pages.filter((page) => page.id !== pageId);
  const at = afterPageId === null ? 0 : rest.findIndex((page) => page.id === afterPageId) + 1;
  if (afterPageId !== null && at === 0) return pages;
  return [...rest.slice(0, at), moving, ...rest.slice(at)];
}
