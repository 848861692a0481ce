import { PLAIN_BINDING, type BindSettings } from './bindSettings';
import type { Paper } from '../paper/paperSize';
import { withFields, type Recipe, type RecipeField } from '../recipe/recipe';
import type { ShotFinding } from '../../imaging/quality/shotFindings';
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
  /** All settings together: the last edit wins. */
  readonly binding?: BindSettings;
  /** Null takes it off its assignment. */
  readonly assignmentId?: string | null;
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
  readonly takenAtMs?: number;
  readonly recipe: Recipe;
}
export interface AddPage extends OperationBase, PageSource {
  readonly kind: 'addPage';
  readonly pageId: string;
  /** The page it comes to stand behind, null for the front; left out, or no longer there: the end. */
  readonly afterPageId?: string | null;
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
  /** What of it was decided: the rest stays as another screen may have set it meanwhile. Left out: all of it. */
  readonly fields?: readonly RecipeField[];
}
export interface MovePage extends OperationBase {
  readonly kind: 'movePage';
  readonly pageId: string;
  /** The page it comes to stand behind, or null for the front. */
  readonly afterPageId: string | null;
}
/** A whole new order. Pages it does not name, added meanwhile elsewhere, stay behind the page they stood behind. */
export interface OrderPages extends OperationBase {
  readonly kind: 'orderPages';
  readonly pageIds: readonly string[];
}
export interface LeaveOut extends OperationBase {
  readonly kind: 'leaveOut';
  readonly pageId: string;
  readonly leftOut: boolean;
}
export interface RemovePage extends OperationBase {
  readonly kind: 'removePage';
  readonly pageId: string;
}
export interface RestorePage extends OperationBase {
  readonly kind: 'restorePage';
  readonly pageId: string;
}

/** Deletes a page for good: it cannot be restored. */
export interface DeletePage extends OperationBase {
  readonly kind: 'deletePage';
  readonly pageId: string;
}
/** What was seen on a page's shot; it says nothing about another original in the page's place. */
export interface NoteFindings extends OperationBase {
  readonly kind: 'noteFindings';
  readonly pageId: string;
  readonly originalId: string;
  readonly findings: readonly ShotFinding[];
}
/** Deletes a whole hand-in for good. */
export interface DeleteHandIn extends OperationBase {
  readonly kind: 'deleteHandIn';
}

export type Operation =
  | CreateHandIn
  | ChangeHandIn
  | AddPage
  | ReplaceOriginal
  | SetRecipe
  | MovePage
  | OrderPages
  | LeaveOut
  | RemovePage
  | RestorePage
  | DeletePage
  | NoteFindings
  | DeleteHandIn;
export type OperationKind = Operation['kind'];

/**
 * What a hand-in is after an operation. Client and server both run this, so they cannot disagree. An operation on a page
 * that is not there changes nothing: another screen may have been quicker.
 * @param handIn - null before its first operation
 * @returns null when the hand-in was deleted for good, or the operation needs one that does not exist
 */
export function applyOperation(handIn: HandIn | null, operation: Operation): HandIn | null {
  if (operation.kind === 'createHandIn') return handIn ?? created(operation);
  if (handIn === null || operation.kind === 'deleteHandIn') return null;
  const next = changed(handIn, operation);
  return next === handIn ? handIn : { ...next, changedAtMs: Math.max(handIn.changedAtMs, operation.atMs) };
}

const created = ({ handInId, title, paper, atMs }: CreateHandIn): HandIn => ({
  id: handInId,
  title,
  paper,
  binding: PLAIN_BINDING,
  assignmentId: null,
  createdAtMs: atMs,
  changedAtMs: atMs,
  removedAtMs: null,
  pages: [],
  deletedPageIds: [],
});

function changed(handIn: HandIn, operation: Exclude<Operation, CreateHandIn | DeleteHandIn>): HandIn {
  switch (operation.kind) {
    case 'changeHandIn':
      return withHandInChange(handIn, operation);
    case 'addPage':
      return withAddedPage(handIn, operation);
    case 'deletePage':
      return withoutPage(handIn, operation.pageId);
    case 'orderPages':
      return { ...handIn, pages: orderPages(handIn.pages, operation.pageIds) };
    case 'movePage':
      return { ...handIn, pages: movePage(handIn.pages, operation.pageId, operation.afterPageId) };
    default:
      return withPage(handIn, operation.pageId, (page) => changedPage(page, operation));
  }
}

const withHandInChange = (handIn: HandIn, operation: ChangeHandIn): HandIn => ({
  ...handIn,
  title: operation.title ?? handIn.title,
  paper: operation.paper ?? handIn.paper,
  binding: operation.binding ?? handIn.binding,
  assignmentId: operation.assignmentId === undefined ? handIn.assignmentId : operation.assignmentId,
  removedAtMs: operation.removed === undefined ? handIn.removedAtMs : operation.removed ? operation.atMs : null,
});

function withAddedPage(handIn: HandIn, operation: AddPage): HandIn {
  if (handIn.deletedPageIds.includes(operation.pageId) || handIn.pages.some((page) => page.id === operation.pageId))
    return handIn;
  const after = handIn.pages.findIndex((page) => page.id === operation.afterPageId);
  const at = operation.afterPageId === null ? 0 : after < 0 ? handIn.pages.length : after + 1;
  const page: Page = {
    id: operation.pageId,
    ...sourceOf(operation),
    leftOut: false,
    removedAtMs: null,
    findings: null,
  };
  return { ...handIn, pages: handIn.pages.toSpliced(at, 0, page) };
}

const withoutPage = (handIn: HandIn, pageId: string): HandIn =>
  handIn.deletedPageIds.includes(pageId)
    ? handIn
    : {
        ...handIn,
        pages: handIn.pages.filter(({ id }) => id !== pageId),
        deletedPageIds: [...handIn.deletedPageIds, pageId],
      };

/** A page after an operation that changes nothing but it. */
function changedPage(
  page: Page,
  operation: ReplaceOriginal | SetRecipe | LeaveOut | RemovePage | RestorePage | NoteFindings,
): Page {
  switch (operation.kind) {
    case 'replaceOriginal': {
      const findings = page.originalId === operation.originalId ? page.findings : null;
      return { ...page, ...sourceOf(operation), findings };
    }
    case 'setRecipe': {
      const { recipe, fields } = operation;
      return { ...page, recipe: fields === undefined ? recipe : withFields(page.recipe, recipe, fields) };
    }
    case 'removePage':
      return { ...page, removedAtMs: operation.atMs };
    case 'restorePage':
      return { ...page, removedAtMs: null };
    case 'leaveOut':
      return { ...page, leftOut: operation.leftOut };
    case 'noteFindings':
      return page.originalId === operation.originalId ? { ...page, findings: operation.findings } : page;
  }
}

const sourceOf = ({
  originalId,
  fileName,
  width,
  height,
  pdfPage,
  takenAtMs,
  recipe,
}: PageSource): Omit<Page, 'id' | 'leftOut' | 'removedAtMs' | 'findings'> => ({
  originalId,
  fileName,
  width,
  height,
  pdfPage: pdfPage ?? null,
  takenAtMs: takenAtMs ?? null,
  recipe,
});

/** What made this page, for adding it again elsewhere. */
export const sourceOfPage = ({
  originalId,
  fileName,
  width,
  height,
  pdfPage,
  takenAtMs,
  recipe,
}: Page): PageSource => ({
  originalId,
  fileName,
  width,
  height,
  recipe,
  ...(pdfPage === null ? {} : { pdfPage }),
  ...(takenAtMs === null ? {} : { takenAtMs }),
});

function withPage(handIn: HandIn, pageId: string, change: (page: Page) => Page): HandIn {
  return handIn.pages.some((page) => page.id === pageId)
    ? { ...handIn, pages: handIn.pages.map((page) => (page.id === pageId ? change(page) : page)) }
    : handIn;
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

/** The pages in the order of these ids; those not named keep their place behind the page before them. */
export function orderPages(pages: readonly Page[], pageIds: readonly string[]): readonly Page[] {
  const named = new Set(pageIds);
  const followers = new Map<string | null, Page[]>();
  let before: string | null = null;
  for (const page of pages) {
    if (named.has(page.id)) before = page.id;
    else followers.set(before, [...(followers.get(before) ?? []), page]);
  }
  const byId = new Map(pages.map((page) => [page.id, page]));
  const ordered = [...new Set(pageIds)].flatMap((id) => {
    const page = byId.get(id);
    return page === undefined ? [] : [page, ...(followers.get(id) ?? [])];
  });
  return [...(followers.get(null) ?? []), ...ordered];
}

/**
 * The order after some pages were set down together where another lies: behind it when they come from before it, before it
 * when they come from behind, as when each thing is pushed along by what is laid in its place.
 * @param ids - all pages in order
 * @param moving - those that are moved, in any order; they keep the order they have
 * @param lifted - the one of them that was taken hold of
 */
export function setDown(
  ids: readonly string[],
  moving: readonly string[],
  lifted: string,
  over: string,
): readonly string[] {
  if (moving.includes(over)) return ids;
  const group = ids.filter((id) => moving.includes(id));
  const rest = ids.filter((id) => !moving.includes(id));
  const at = rest.indexOf(over) + (ids.indexOf(lifted) < ids.indexOf(over) ? 1 : 0);
  return [...rest.slice(0, at), ...group, ...rest.slice(at)];
}
