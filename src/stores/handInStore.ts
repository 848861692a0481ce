import { nanoid } from 'nanoid';
import { create } from 'zustand';
import { FotoplanError } from '../../core/errors';
import { PLAIN_BINDING, type BindSettings } from '../../core/handIn/bindSettings';
import type { HandIn } from '../../core/handIn/handIn';
import { applyOperation, type Operation } from '../../core/handIn/operation';
import { readRecipe } from '../../core/recipe/recipe';
import { writeChange, type Change, type OutboxItem, type StoredOriginal } from '../storage/localDatabase';
import { rebuildHandIn } from '../sync/rebuildHandIn';
import { services } from './services';
import { wakeSync } from './syncStore';

interface HandInState {
  readonly handIns: Readonly<Record<string, HandIn>>;
  readonly loading: 'loading' | 'ready' | 'failed';
  readonly loadProblem: string | null;
}

export const useHandInStore = create<HandInState>(() => ({ handIns: {}, loading: 'loading', loadProblem: null }));

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
const withTodaysRecipes = (handIn: HandIn): HandIn => ({ ...handIn, binding: { ...PLAIN_BINDING, ...(handIn.binding as Partial<BindSettings> | undefined) }, assignmentId: handIn.assignmentId ?? null, pages: handIn.pages.map((page) => ({ ...page, pdfPage: page.pdfPage ?? null, takenAtMs: page.takenAtMs ?? null, leftOut: page.leftOut ?? false, recipe: readRecipe(page.recipe) })) });

const byId = (handIns: readonly HandIn[]): Record<string, HandIn> => Object.fromEntries(handIns.map((handIn) => [handIn.id, handIn]));
