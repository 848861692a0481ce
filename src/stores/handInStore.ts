import { nanoid } from 'nanoid';
import { create } from 'zustand';
import { FotoplanError } from '../../core/errors';
import { PLAIN_BINDING, type BindSettings } from '../../core/handIn/bindSettings';
import type { HandIn } from '../../core/handIn/handIn';
import { applyOperation, type Operation } from '../../core/handIn/operation';
import { readRecipe } from '../../core/recipe/recipe';
import { writeChange, type Change, type LocalDatabase, type OutboxItem, type StoredBoundFile, type StoredHistory, type StoredOriginal } from '../storage/localDatabase';
import { rebuildHandIn } from '../sync/rebuildHandIn';
import { services } from './services';
import { tellOtherTabs } from './tabs';
import { wakeSync, whileWriting } from './syncStore';

interface HandInState {
  readonly handIns: Readonly<Record<string, HandIn>>;
  readonly loading: 'loading' | 'ready' | 'failed';
  readonly loadProblem: string | null;
}

export const useHandInStore = create<HandInState>(() => ({ handIns: {}, loading: 'loading', loadProblem: null }));

/** Changes are written one after another, so that each sees what the one before it left. */
let lastWrite: Promise<unknown> = Promise.resolve();

/**
 * Applies changes, all or none: on this device first, then on the screen, then upwards.
 * @param wanted - or a function that decides when its turn comes, from what is so then; none changes nothing
 * @param original - the photo that the changes bring with them
 * @param history - how they are taken back, kept with them
 * @returns whether anything was changed
 */
export function changeAll(wanted: readonly Change[] | (() => readonly Change[]), original?: StoredOriginal, history?: StoredHistory): Promise<boolean> {
  const write = whileWriting(() => lastWrite.then(async () => {
    const { db } = await services();
    const changes = typeof wanted === 'function' ? wanted() : wanted;
    if (changes.length === 0) return false;
    const operations = changes.map((what) => ({ ...what, id: nanoid(), atMs: Date.now() }));
    const handInIds = [...new Set(operations.map(({ handInId }) => handInId))];
    const apply = (before: ReadonlyMap<string, HandIn>) => {
      const shown = useHandInStore.getState().handIns;
      const after = new Map(handInIds.flatMap((id) => { const known = before.get(id) ?? shown[id]; return known === undefined ? [] : [[id, withTodaysRecipes(known)] as const]; }));
      for (const operation of operations) {
        const next = applyOperation(after.get(operation.handInId) ?? null, operation);
        if (next === null) throw new FotoplanError('NOT_FOUND', 'This hand-in is not here. Go back to the desk and open it again.');
        after.set(next.id, next);
      }
      const items: OutboxItem[] = operations.map((operation) => ({ kind: 'operation', operation }));
      if (original !== undefined) items.unshift({ kind: 'original', originalId: original.id });
      return { handIns: [...after.values()], items };
    };
    const changed = await writeChange(db, { handInIds, apply, original, history }).catch((cause: unknown) => {
      if (cause instanceof FotoplanError) throw cause;
      throw new FotoplanError('STORAGE_FAILED', 'This device has no room left. Free some space, then do this again.', {}, { cause });
    });
    useHandInStore.setState((s) => ({ handIns: { ...s.handIns, ...byId(changed) } }));
    tellOtherTabs(handInIds);
    wakeSync();
    return true;
  }));
  lastWrite = write.catch(() => undefined);
  return write;
}

/** A hand-in once every change wanted so far has been written: what a screen shows may be a moment behind. */
export async function asWritten(shown: HandIn): Promise<HandIn> {
  await lastWrite;
  return useHandInStore.getState().handIns[shown.id] ?? shown;
}

/** Applies one change; see changeAll. */
export const change = (wanted: Change | (() => Change | null), original?: StoredOriginal): Promise<boolean> => {
  const one = (what: Change | null): readonly Change[] => (what === null ? [] : [what]);
  return changeAll(typeof wanted === 'function' ? () => one(wanted()) : one(wanted), original);
};

/** Takes a whole hand-in in whose originals are on this device, and sends it up. */
export function adoptHandIn(handIn: HandIn, file: StoredBoundFile | null): Promise<void> {
  return inWriteTurn(async () => {
    const { db } = await services();
    const tx = db.transaction(['handIns', 'outbox', 'boundFiles'], 'readwrite');
    const items: OutboxItem[] = [...rebuildHandIn(handIn), ...(file === null ? [] : [{ kind: 'boundFile', handInId: handIn.id } as const])];
    await Promise.all([tx.objectStore('handIns').put(handIn), ...(file === null ? [] : [tx.objectStore('boundFiles').put(file)]), ...items.map((item) => tx.objectStore('outbox').add(item)), tx.done]);
    useHandInStore.setState((s) => ({ handIns: { ...s.handIns, [handIn.id]: handIn } }));
    tellOtherTabs([handIn.id]);
    wakeSync();
  });
}

/** Shows what another tab has just written to this device. */
export function takeFromDevice(handInIds: readonly string[]): Promise<void> {
  return inWriteTurn(async () => {
    const { db } = await services();
    const written = await Promise.all(handInIds.map((id) => db.get('handIns', id)));
    useHandInStore.setState((s) => ({ handIns: { ...s.handIns, ...byId(written.flatMap((handIn) => (handIn === undefined ? [] : [withTodaysRecipes(handIn)]))) } }));
    wakeSync();
  });
}

/** Fetches one hand-in that another screen has changed, and lays what still waits here on top. */
export async function fetchHandIn(handInId: string): Promise<void> {
  const { api } = await services();
  const remote = await api.handIn(handInId);
  await inWriteTurn(async () => {
    const { db } = await services();
    const merged = withWaiting(remote, await waitingOperations(db));
    await db.put('handIns', merged);
    useHandInStore.setState((s) => ({ handIns: { ...s.handIns, [handInId]: merged } }));
  });
}

/** Forgets what this device knew of hand-ins and takes what the server has; after joining another owner. */
export function startOverFromServer(): Promise<void> {
  return inWriteTurn(async () => {
    const { db } = await services();
    await db.clear('handIns');
    useHandInStore.setState({ handIns: {} });
  }).then(loadHandIns);
}

/** Behind changes being written, so that none of them is overwritten by an older answer. */
function inWriteTurn(work: () => Promise<void>): Promise<void> {
  const turn = lastWrite.then(work);
  lastWrite = turn.catch(() => undefined);
  return turn;
}

const waitingOperations = async (db: LocalDatabase): Promise<Operation[]> => (await db.getAll('outbox')).flatMap((item) => (item.kind === 'operation' ? [item.operation] : []));
const withWaiting = (handIn: HandIn, waiting: readonly Operation[]): HandIn => waiting.filter((operation) => operation.handInId === handIn.id).reduce<HandIn>((state, operation) => applyOperation(state, operation) ?? state, handIn);

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

function mergeRemote(remote: readonly HandIn[]): Promise<void> {
  return inWriteTurn(async () => {
    const { db } = await services();
    const waiting = await waitingOperations(db);
    const stillWaiting = new Set(waiting.map((operation) => operation.handInId));
    const { handIns } = useHandInStore.getState();
    const merged = { ...handIns, ...byId(remote.map((handIn) => withWaiting(handIn, waiting))) };
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
}

/** What this device kept may have been written by an older Fotoplan. */
const withTodaysRecipes = (handIn: HandIn): HandIn => ({ ...handIn, binding: { ...PLAIN_BINDING, ...(handIn.binding as Partial<BindSettings> | undefined) }, assignmentId: handIn.assignmentId ?? null, pages: handIn.pages.map((page) => ({ ...page, pdfPage: page.pdfPage ?? null, takenAtMs: page.takenAtMs ?? null, leftOut: page.leftOut ?? false, recipe: readRecipe(page.recipe) })) });

const byId = (handIns: readonly HandIn[]): Record<string, HandIn> => Object.fromEntries(handIns.map((handIn) => [handIn.id, handIn]));
