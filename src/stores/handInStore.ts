import { nanoid } from 'nanoid';
import { create } from 'zustand';
import { FotoplanError } from '../../core/errors';
import { boundPages, type HandIn, type Page } from '../../core/handIn/handIn';
import { applyOperation, type Operation, type PageSource } from '../../core/handIn/operation';
import type { Paper } from '../../core/pdf/paperSize';
import { readRecipe, type Recipe } from '../../core/recipe/recipe';
import { writeChange, type OutboxItem, type StoredOriginal } from '../storage/localDatabase';
import { rebuildHandIn } from '../sync/rebuildHandIn';
import { services } from './services';
import { wakeSync } from './syncStore';

type Unstamped<T> = T extends Operation ? Omit<T, 'id' | 'atMs'> : never;
/** An operation before it has an id and a time. */
export type Change = Unstamped<Operation>;

interface UndoStep {
  readonly label: string;
  readonly handInId: string;
  readonly inverse: readonly Change[];
}

interface HandInState {
  readonly handIns: Readonly<Record<string, HandIn>>;
  readonly loading: 'loading' | 'ready' | 'failed';
  readonly loadProblem: string | null;
  /** What can be taken back, latest last. */
  readonly undoSteps: readonly UndoStep[];
}

export const useHandInStore = create<HandInState>(() => ({ handIns: {}, loading: 'loading', loadProblem: null, undoSteps: [] }));

const UNDO_STEPS_KEPT = 100;

/** Changes are written one after another, so that each sees what the one before it left. */
let lastWrite: Promise<unknown> = Promise.resolve();

/**
 * Applies a change: on this device first, then on the screen, then upwards.
 * @param wanted - or a function that decides when its turn comes, from what is so then; null changes nothing
 * @param original - the photo the change brings with it
 * @returns whether anything was changed
 */
export function change(wanted: Change | (() => Change | null), original?: StoredOriginal): Promise<boolean> {
  const write = lastWrite.then(async () => {
    const { db } = await services();
    const what = typeof wanted === 'function' ? wanted() : wanted;
    if (what === null) return false;
    const operation = { ...what, id: nanoid(), atMs: Date.now() } as Operation;
    const after = applyOperation(useHandInStore.getState().handIns[operation.handInId] ?? null, operation);
    if (after === null) throw new FotoplanError('NOT_FOUND', 'This hand-in is not here. Go back to the desk and open it again.');
    const items: OutboxItem[] = [{ kind: 'operation', operation }];
    if (original !== undefined) items.unshift({ kind: 'original', originalId: original.id });
    try {
      await writeChange(db, after, items, original);
    } catch (cause) {
      throw new FotoplanError('STORAGE_FAILED', 'This device has no room left. Free some space, then do this again.', {}, { cause });
    }
    useHandInStore.setState((s) => ({ handIns: { ...s.handIns, [after.id]: after } }));
    wakeSync();
    return true;
  });
  lastWrite = write.catch(() => undefined);
  return write;
}

/** Applies a change that can be taken back by its inverse. */
async function changeUndoably(label: string, what: Change, inverse: Change): Promise<void> {
  await change(what);
  rememberUndo(what.handInId, label, [inverse]);
}

const rememberUndo = (handInId: string, label: string, inverse: readonly Change[]): void =>
  useHandInStore.setState((s) => ({ undoSteps: [...s.undoSteps, { label, handInId, inverse }].slice(-UNDO_STEPS_KEPT) }));

/** Takes back the latest change of a hand-in. */
export async function undo(handInId: string): Promise<void> {
  const { undoSteps } = useHandInStore.getState();
  const step = undoSteps.findLast((s) => s.handInId === handInId);
  if (step === undefined) return;
  useHandInStore.setState({ undoSteps: undoSteps.filter((s) => s !== step) });
  for (const inverse of step.inverse) await change(inverse);
}

export async function createHandIn(title: string): Promise<string> {
  const handInId = nanoid();
  await change({ kind: 'createHandIn', handInId, title, paper: 'auto' });
  return handInId;
}

export const renameHandIn = (handIn: HandIn, title: string): Promise<void> =>
  changeUndoably('the new name', { kind: 'changeHandIn', handInId: handIn.id, title }, { kind: 'changeHandIn', handInId: handIn.id, title: handIn.title });

export const setPaper = (handIn: HandIn, paper: Paper): Promise<void> =>
  changeUndoably('the paper', { kind: 'changeHandIn', handInId: handIn.id, paper }, { kind: 'changeHandIn', handInId: handIn.id, paper: handIn.paper });

export const setRecipe = (handInId: string, page: Page, recipe: Recipe, label: string): Promise<void> =>
  changeUndoably(label, { kind: 'setRecipe', handInId, pageId: page.id, recipe }, { kind: 'setRecipe', handInId, pageId: page.id, recipe: page.recipe });

/** Puts another shot in a page's place. */
export async function reshoot(handInId: string, page: Page, shot: PageSource, original: StoredOriginal): Promise<void> {
  const { originalId, fileName, width, height, recipe, pdfPage } = page;
  await change({ kind: 'replaceOriginal', handInId, pageId: page.id, ...shot }, original);
  rememberUndo(handInId, 'shooting a page again', [{ kind: 'replaceOriginal', handInId, pageId: page.id, originalId, fileName, width, height, recipe, ...(pdfPage === null ? {} : { pdfPage }) }]);
}

export const removePage = (handInId: string, pageId: string): Promise<void> =>
  changeUndoably('removing a page', { kind: 'removePage', handInId, pageId }, { kind: 'restorePage', handInId, pageId });

/** One light on some pages, one step to take back. */
export async function setLight(handIn: HandIn, pageIds: readonly string[], { finish, light }: Pick<Recipe, 'finish' | 'light'>, label: string): Promise<void> {
  const same = (recipe: Recipe): boolean => recipe.finish === finish && JSON.stringify(recipe.light) === JSON.stringify(light);
  const pages = handIn.pages.filter((page) => pageIds.includes(page.id) && !same(page.recipe));
  for (const page of pages) await change({ kind: 'setRecipe', handInId: handIn.id, pageId: page.id, recipe: { ...page.recipe, finish, light } });
  const inverse = pages.map((page): Change => ({ kind: 'setRecipe', handInId: handIn.id, pageId: page.id, recipe: page.recipe }));
  if (inverse.length > 0) rememberUndo(handIn.id, label, inverse);
}

/** Moves a page by one place among those that are bound: -1 earlier, 1 later. */
export async function movePageBy(handIn: HandIn, pageId: string, by: -1 | 1): Promise<void> {
  const shown = boundPages(handIn);
  const at = shown.findIndex((page) => page.id === pageId);
  const to = at + by;
  if (at < 0 || to < 0 || to >= shown.length) return;
  const afterPageId = by === 1 ? shown[to]!.id : (shown[to - 1]?.id ?? null);
  const everyPage = handIn.pages.map((page) => page.id);
  const before = everyPage[everyPage.indexOf(pageId) - 1] ?? null;
  await changeUndoably(
    'moving a page',
    { kind: 'movePage', handInId: handIn.id, pageId, afterPageId },
    { kind: 'movePage', handInId: handIn.id, pageId, afterPageId: before },
  );
}

/** Shows what this device has at once, then what the server has with what still waits here laid on top. */
export async function loadHandIns(): Promise<void> {
  useHandInStore.setState({ loading: 'loading', loadProblem: null });
  try {
    const { db, api } = await services();
    const local = (await db.getAll('handIns')).map(withTodaysRecipes);
    if (local.length > 0) useHandInStore.setState({ handIns: byId(local), loading: 'ready' });
    const remote = await api.handIns().catch((error: unknown) => {
      if (local.length > 0) return null;
      throw error;
    });
    if (remote !== null) await mergeRemote(remote);
    useHandInStore.setState({ loading: 'ready' });
  } catch (error) {
    useHandInStore.setState({ loading: 'failed', loadProblem: error instanceof FotoplanError ? error.message : 'This browser does not let Fotoplan keep pages. Leave private mode, or allow storage for this site.' });
  }
}

/** Waits its turn behind changes being written, so that none of them is overwritten by an older answer. */
function mergeRemote(remote: readonly HandIn[]): Promise<void> {
  const merge = lastWrite.then(async () => {
    const { db } = await services();
    const waiting = (await db.getAll('outbox')).flatMap((item) => (item.kind === 'operation' ? [item.operation] : []));
    const stillWaiting = new Set(waiting.map((operation) => operation.handInId));
    const { handIns } = useHandInStore.getState();
    const merged = { ...handIns };
    for (const handIn of remote) {
      const own = waiting.filter((operation) => operation.handInId === handIn.id);
      merged[handIn.id] = own.reduce<HandIn>((state, operation) => applyOperation(state, operation) ?? state, handIn);
    }
    const known = new Set(remote.map((handIn) => handIn.id));
    for (const id of Object.keys(merged)) if (!known.has(id) && !stillWaiting.has(id) && merged[id]!.removed) delete merged[id];
    const unknown = Object.values(merged).filter(({ id, removed }) => !known.has(id) && !removed && !waiting.some((o) => o.kind === 'createHandIn' && o.handInId === id));
    const tx = db.transaction(['handIns', 'outbox'], 'readwrite');
    const outbox = tx.objectStore('outbox');
    // what waits for a hand-in that the server does not know is in the whole that is sent again
    for (let cursor = await outbox.openCursor(); cursor !== null; cursor = await cursor.continue()) {
      const item = cursor.value;
      if (item.kind === 'operation' && unknown.some(({ id }) => id === item.operation.handInId)) await cursor.delete();
    }
    for (const item of unknown.flatMap(rebuildHandIn)) await outbox.add(item);
    for (const handIn of Object.values(merged)) await tx.objectStore('handIns').put(handIn);
    await tx.done;
    useHandInStore.setState({ handIns: merged });
    wakeSync();
  });
  lastWrite = merge.catch(() => undefined);
  return merge;
}

/** What this device kept may have been written by an older Fotoplan. */
const withTodaysRecipes = (handIn: HandIn): HandIn => ({ ...handIn, pages: handIn.pages.map((page) => ({ ...page, pdfPage: page.pdfPage ?? null, recipe: readRecipe(page.recipe) })) });

const byId = (handIns: readonly HandIn[]): Record<string, HandIn> => Object.fromEntries(handIns.map((handIn) => [handIn.id, handIn]));
