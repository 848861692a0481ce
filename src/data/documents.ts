import { putOriginal } from './putOriginal';
import { createStore, type StoreApi } from 'zustand/vanilla';
import { FotoplanError } from '../../core/errors';
import type { HandIn } from '../../core/work/hand-in/handIn';
import { applyOperation, type Operation } from '../../core/work/hand-in/operation';
import { readHandIn } from '../../core/work/hand-in/readHandIn';
import { storageError } from '../../platform/browser/keptBytes/storageError';
import type { KeptBytes } from '../../platform/keptBytes';
import { stamped, type Change } from './change';
import { planCommand, type Command } from './commands/planCommand';
import { NO_HISTORY, redone, undone, withStep, type History } from './history';
import { inTransaction, type LocalDatabase, type WriteTransaction } from './localDatabase';
import type { Locks } from './locks';
import type { OutboxItem } from './outbox';
import { shareUnchanged } from './shareUnchanged';

export interface DocumentsState {
  /** Deleted ones that can be restored are among them. */
  readonly handIns: Readonly<Record<string, HandIn>>;
  readonly loading: 'loading' | 'ready' | 'failed';
  readonly problem: FotoplanError | null;
  /** Changes that are being written to this device: not in the outbox yet, and not safe yet. */
  readonly writing: number;
}

/** A photo that a command brings with it. */
export interface NewOriginal {
  readonly id: string;
  readonly fileName: string;
  readonly blob: Blob;
}

export interface Documents {
  readonly state: StoreApi<DocumentsState>;
  readonly histories: StoreApi<{ readonly histories: Readonly<Record<string, History>> }>;
  /** Shows what this device has. @returns whether it has anything */
  load(): Promise<boolean>;
  /**
   * Does something, all or nothing: on this device first, then on the screen, then upwards.
   * @returns whether anything was changed
   * @throws FotoplanError STORAGE_… where this device could not keep it; nothing is changed then
   */
  dispatch(command: Command, original?: NewOriginal): Promise<boolean>;
  undo(handInId: string): Promise<void>;
  redo(handInId: string): Promise<void>;
  /** A hand-in once every change wanted so far has been written: what a screen shows may be a moment behind. */
  asWritten(shown: HandIn): Promise<HandIn>;
  /** Shows what another tab has just written. */
  reload(handInIds: readonly string[]): Promise<void>;
  /** Runs behind writes that are pending, so that a stale answer of the server cannot overwrite them; then shows what it wrote. */
  write(work: () => Promise<readonly string[]>): Promise<void>;
}

export interface DocumentsOptions {
  readonly db: LocalDatabase;
  readonly bytes: KeptBytes;
  readonly locks: Pick<Locks, 'keeping'>;
  readonly now: () => number;
  readonly newId: () => string;
  /** Makes room on this device. @returns whether there is more now */
  readonly makeRoom: () => Promise<boolean>;
  /** Something was written: other tabs show it, and the outbox may have grown. */
  readonly onWritten: (handInIds: readonly string[]) => void;
}

const STORES = ['handIns', 'outbox', 'originals', 'histories'] as const;
type Tx = WriteTransaction<(typeof STORES)[number]>;

/** The hand-ins on this device; the only place where they are changed. */
export function createDocuments({ db, bytes, locks, now, newId, makeRoom, onWritten }: DocumentsOptions): Documents {
  const state = createStore<DocumentsState>(() => ({ handIns: {}, loading: 'loading', problem: null, writing: 0 }));
  const histories = createStore<{ readonly histories: Readonly<Record<string, History>> }>(() => ({ histories: {} }));
  /** Writes happen one after another, so that the screen shows them in their order. */
  let lastWrite: Promise<unknown> = Promise.resolve();

  const inTurn = <T>(work: () => Promise<T>): Promise<T> => {
    const turn = lastWrite.then(work);
    lastWrite = turn.catch(() => undefined);
    return turn;
  };

  const stored = async (tx: Tx, id: string): Promise<HandIn | null> => {
    const kept = await tx.objectStore('handIns').get(id);
    return kept === undefined ? null : readHandIn(kept);
  };

  /** Applies changes to what is stored, and puts them into the outbox. @returns the hand-ins that are other now */
  async function apply(tx: Tx, changes: readonly Change[], originalIds: readonly string[] = []): Promise<string[]> {
    const operations: Operation[] = changes.map((change) => stamped(change, newId(), now()));
    const after = new Map<string, HandIn | null>();
    for (const operation of operations) {
      const { handInId } = operation;
      const before = after.has(handInId) ? after.get(handInId)! : await stored(tx, handInId);
      const next = applyOperation(before, operation);
      if (next === null && operation.kind !== 'deleteHandIn')
        throw new FotoplanError('NOT_FOUND', 'This hand-in is not here. Go back to the desk and open it again.');
      after.set(handInId, next);
    }
    for (const originalId of originalIds) await tx.objectStore('outbox').add({ kind: 'original', originalId });
    for (const operation of operations)
      await tx.objectStore('outbox').add({ kind: 'operation', operation } satisfies OutboxItem);
    for (const [id, handIn] of after) {
      if (handIn !== null) await tx.objectStore('handIns').put(handIn);
      else {
        await tx.objectStore('handIns').delete(id);
        await tx.objectStore('histories').delete(id);
      }
    }
    return [...after.keys()];
  }

  /** Reads hand-ins and their histories back, and shows them. */
  async function show(handInIds: readonly string[]): Promise<void> {
    const tx = db.transaction(['handIns', 'histories']);
    const read = await Promise.all(
      handInIds.map(
        async (id) => [id, await tx.objectStore('handIns').get(id), await tx.objectStore('histories').get(id)] as const,
      ),
    );
    state.setState((s) => {
      const handIns = { ...s.handIns };
      for (const [id, kept] of read) {
        if (kept === undefined) delete handIns[id];
        else handIns[id] = shareUnchanged(handIns[id], readHandIn(kept));
      }
      return { handIns };
    });
    histories.setState((s) => ({
      histories: { ...s.histories, ...Object.fromEntries(read.map(([id, , history]) => [id, history ?? NO_HISTORY])) },
    }));
  }

  /** Runs a transaction; where the device is full, once more after making room. */
  async function written(work: (tx: Tx) => Promise<string[]>): Promise<string[]> {
    const once = (): Promise<string[]> => inTransaction(db, [...STORES], work);
    try {
      return await once();
    } catch (error) {
      if (error instanceof FotoplanError) throw error;
      const problem = storageError(error);
      if (problem.code === 'STORAGE_FULL' && (await makeRoom()))
        return once().catch((second: unknown) => Promise.reject(storageError(second)));
      throw problem;
    }
  }

  /** A change counts as unsaved from the moment it is wanted. */
  async function change(
    work: (tx: Tx) => Promise<string[]>,
    before: () => Promise<unknown> = () => Promise.resolve(),
  ): Promise<boolean> {
    state.setState((s) => ({ writing: s.writing + 1 }));
    try {
      // megabytes are written beside other changes, not in their way
      await before();
      return await inTurn(async () => {
        const changed = await written(work);
        if (changed.length === 0) return false;
        await show(changed);
        onWritten(changed);
        return true;
      });
    } finally {
      state.setState((s) => ({ writing: s.writing - 1 }));
    }
  }

  async function step(
    handInId: string,
    next: typeof undone | typeof redone,
    way: 'forward' | 'inverse',
  ): Promise<void> {
    await change(async (tx) => {
      const found = next((await tx.objectStore('histories').get(handInId)) ?? NO_HISTORY);
      if (found === null) return [];
      const changed = await apply(tx, found.step[way]);
      await tx.objectStore('histories').put({ handInId, ...found.after });
      return changed;
    });
  }

  /** Bytes come before what refers to them: a crash between the two leaves bytes that nobody refers to, never a page without its photo. */
  async function keepBytes({ id, blob }: NewOriginal): Promise<void> {
    const put = (): Promise<void> => putOriginal(bytes, id, blob);
    await put().catch(async (error: unknown) => {
      if (error instanceof FotoplanError && error.code === 'STORAGE_FULL' && (await makeRoom())) return put();
      throw error;
    });
  }

  return {
    state,
    histories,
    load: () =>
      inTurn(async () => {
        const [handIns, kept] = await Promise.all([db.getAll('handIns'), db.getAll('histories')]);
        state.setState((s) => ({
          handIns: Object.fromEntries(
            handIns.map((handIn) => [handIn.id, shareUnchanged(s.handIns[handIn.id], readHandIn(handIn))]),
          ),
        }));
        histories.setState({
          histories: Object.fromEntries(kept.map(({ handInId, ...history }) => [handInId, history])),
        });
        return handIns.length > 0;
      }),
    dispatch(command, original) {
      const work = async (tx: Tx): Promise<string[]> => {
        const { handInId } = command;
        const plan = planCommand(command, await stored(tx, handInId), newId);
        if (plan === null || plan.changes.length === 0) return [];
        if (original !== undefined)
          await tx
            .objectStore('originals')
            .put({ id: original.id, fileName: original.fileName, bytes: original.blob.size, from: 'here' });
        const changed = await apply(tx, plan.changes, original === undefined ? plan.originalIds : [original.id]);
        if (plan.step !== undefined) {
          const history = (await tx.objectStore('histories').get(handInId)) ?? NO_HISTORY;
          await tx.objectStore('histories').put({ handInId, ...withStep(history, plan.step) });
        }
        return changed;
      };
      return original === undefined ? change(work) : locks.keeping(() => change(work, () => keepBytes(original)));
    },
    undo: (handInId) => step(handInId, undone, 'inverse'),
    redo: (handInId) => step(handInId, redone, 'forward'),
    async asWritten(shown) {
      await lastWrite;
      return state.getState().handIns[shown.id] ?? shown;
    },
    reload: (handInIds) => inTurn(() => show(handInIds)),
    write: (work) =>
      inTurn(async () => {
        const changed = await work();
        if (changed.length > 0) await show(changed);
      }),
  };
}
