import type { AppliedView, ChangesView, ProfileView } from '../../contract/views';
import { FotoplanError } from '../../core/errors';
import { applyOperation, type Operation } from '../../core/work/hand-in/operation';
import type { HandIn } from '../../core/work/hand-in/handIn';
import { readHandIn } from '../../core/work/hand-in/readHandIn';
import type { ApiClient } from './apiClient';
import { stamped, type Change } from './change';
import type { Documents } from './documents';
import { inTransaction, type Cursor, type LocalDatabase, type WriteTransaction } from './localDatabase';
import type { OutboxItem } from './outbox';
import { rebuildHandIn, rebuildPage } from './rebuildHandIn';

export interface Sync {
  /** Fetches what is new and lays what still waits here on top; one at a time, once more where it was asked for meanwhile. */
  pull(): Promise<void>;
  /** Operations of this device were applied: where nothing else came between, none overtook another and none was there before, nothing is new. */
  applied(answer: AppliedView, overtook: boolean): Promise<void>;
  /** A change with this number happened elsewhere. */
  heard(seq: number): Promise<void>;
  /** Shows hand-ins as the server has them, with what still waits here on top: after something was discarded. */
  refetch(handInIds: readonly string[]): Promise<void>;
  /** This device acts for another owner from now on: what it had and the owner has not, and what does not wait to go up, is let go. */
  startOver(): Promise<void>;
}

export interface SyncOptions {
  readonly db: LocalDatabase;
  readonly api: ApiClient;
  readonly documents: Documents;
  readonly now: () => number;
  readonly newId: () => string;
  /** This device was unlinked from another owner's work, and has its own again. */
  readonly onLeft: () => void;
  readonly onPulled: (
    handInIds: readonly string[],
    news: {
      readonly boundFiles: readonly string[];
      readonly gone: readonly string[];
      readonly profile?: ProfileView | null;
    },
  ) => void;
}

const STORES = ['handIns', 'outbox', 'originals', 'histories', 'device'] as const;
type Tx = WriteTransaction<(typeof STORES)[number]>;

export function createSync({ db, api, documents, now, newId, onLeft, onPulled }: SyncOptions): Sync {
  let pulling: Promise<void> | null = null;
  let again = false;
  /** Up to where this tab shows what the device knows: another tab may have fetched more, and gone without a word. */
  let shownSeq: number | null = null;
  /** Joined another owner on purpose: nothing here is missing there by mistake. */
  let joined = false;
  /** Unlinked from another owner: what is theirs is let go, with what was still to be changed in it. */
  let left = false;

  const cursor = async (): Promise<Cursor | null> => ((await db.get('device', 'cursor')) as Cursor | undefined) ?? null;
  const acked = async (): Promise<number> => ((await db.get('device', 'acked')) as number | undefined) ?? 0;

  const outboxOf = async (tx: Tx, handInId: string): Promise<{ key: number; operation: Operation }[]> => {
    const store = tx.objectStore('outbox');
    const [keys, items] = await Promise.all([store.getAllKeys(), store.getAll()]);
    return items.flatMap((item, i) =>
      item.kind === 'operation' && item.operation.handInId === handInId
        ? [{ key: keys[i]!, operation: item.operation }]
        : [],
    );
  };

  /** Puts changes into the outbox that bring the server what it has lost, photos first where they are here. */
  async function sendAgain(tx: Tx, changes: readonly Change[]): Promise<Operation[]> {
    const operations = changes.map((change) => stamped(change, newId(), now()));
    const originalIds = new Set(
      operations.flatMap((operation) => (operation.kind === 'addPage' ? [operation.originalId] : [])),
    );
    for (const originalId of originalIds)
      if ((await tx.objectStore('originals').get(originalId)) !== undefined)
        await tx.objectStore('outbox').add({ kind: 'original', originalId });
    for (const operation of operations)
      await tx.objectStore('outbox').add({ kind: 'operation', operation } satisfies OutboxItem);
    return operations;
  }

  /** A page that is here, and neither there nor deleted for good, was lost there: it is sent again. */
  const lostPages = (local: HandIn, remote: HandIn): Change[] => {
    const known = new Set([...remote.pages.map(({ id }) => id), ...remote.deletedPageIds]);
    return local.pages.flatMap((page, i) =>
      known.has(page.id) ? [] : rebuildPage(local.id, page, local.changedAtMs, local.pages[i - 1]?.id ?? null),
    );
  };

  const replay = (handIn: HandIn | null, operations: readonly Operation[]): HandIn | null =>
    operations.reduce<HandIn | null>(
      (state, operation) => (operation.kind === 'deleteHandIn' ? null : (applyOperation(state, operation) ?? state)),
      handIn,
    );

  async function mergeOne(tx: Tx, sent: HandIn, mayBeLost = true): Promise<void> {
    const remote = readHandIn(sent);
    const waiting = (await outboxOf(tx, remote.id)).map(({ operation }) => operation);
    let merged = replay(remote, waiting);
    if (merged === null) return void (await forget(tx, remote.id));
    const kept = await tx.objectStore('handIns').get(remote.id);
    if (kept !== undefined && mayBeLost) {
      const lost = lostPages(readHandIn(kept), merged);
      if (lost.length > 0) merged = replay(merged, await sendAgain(tx, lost))!;
    }
    await tx.objectStore('handIns').put(merged);
  }

  async function forget(tx: Tx, handInId: string): Promise<void> {
    await tx.objectStore('handIns').delete(handInId);
    await tx.objectStore('histories').delete(handInId);
  }

  async function forgetWithOutbox(tx: Tx, handInId: string): Promise<void> {
    await forget(tx, handInId);
    for (const { key } of await outboxOf(tx, handInId)) await tx.objectStore('outbox').delete(key);
  }

  /** After everything was told: what is here and nowhere else is sent again, or let go where this device has joined another owner. */
  async function settleUnknown(tx: Tx, known: ReadonlySet<string>): Promise<string[]> {
    const touched: string[] = [];
    for (const kept of await tx.objectStore('handIns').getAll()) {
      if (known.has(kept.id)) continue;
      const waiting = (await outboxOf(tx, kept.id)).map(({ operation }) => operation);
      if (waiting.some(({ kind }) => kind === 'createHandIn')) continue;
      touched.push(kept.id);
      if (left) {
        await forgetWithOutbox(tx, kept.id);
        continue;
      }
      if (joined && waiting.length === 0) {
        await forget(tx, kept.id);
        continue;
      }
      // what waits is in the whole that is sent again
      for (const { key } of await outboxOf(tx, kept.id)) await tx.objectStore('outbox').delete(key);
      await sendAgain(tx, rebuildHandIn(readHandIn(kept)));
    }
    return touched;
  }

  /**
   * Takes one answer in.
   * @param all - ids of all that the server has told so far, while everything is asked for
   * @returns false where an answer of the server made the outbox shorter meanwhile, so that this one may be older than what is here
   */
  async function merge(view: ChangesView, ackedBefore: number, all: ReadonlySet<string> | null): Promise<boolean> {
    let current = true;
    const touched: string[] = [];
    await documents.write(async () => {
      await inTransaction(db, [...STORES], async (tx) => {
        current = (((await tx.objectStore('device').get('acked')) as number | undefined) ?? 0) === ackedBefore;
        if (!current) return;
        for (const handIn of view.handIns) await mergeOne(tx, handIn);
        for (const id of view.gone) await forgetWithOutbox(tx, id);
        touched.push(...view.handIns.map(({ id }) => id), ...view.gone);
        if (all !== null && view.more) return;
        if (all !== null) touched.push(...(await settleUnknown(tx, all)));
        await tx.objectStore('device').put({ owner: view.owner, seq: view.upTo } satisfies Cursor, 'cursor');
      });
      return touched;
    });
    if (current && (all === null || !view.more)) shownSeq = view.upTo;
    if (current)
      onPulled(touched, {
        boundFiles: view.boundFiles,
        gone: view.gone,
        ...(view.profile === undefined ? {} : { profile: view.profile }),
      });
    return current;
  }

  async function pullOnce(): Promise<void> {
    let from = await cursor();
    if (from !== null && from.seq !== shownSeq) {
      await documents.load();
      shownSeq = from.seq;
    }
    /** All that the server has, while everything is asked for. */
    let all: Set<string> | null = from === null ? new Set() : null;
    for (;;) {
      const ackedBefore = await acked();
      const view = await api.changes(from?.seq ?? 0);
      if (from !== null && (view.owner !== from.owner || view.upTo < from.seq)) {
        // another owner, or a server that was set back: what this device knows of numbers means nothing any more
        if (view.left === from.owner) {
          left = true;
          onLeft();
        }
        from = null;
        all = new Set();
        continue;
      }
      for (const id of [...view.handIns.map((handIn) => handIn.id), ...view.gone]) all?.add(id);
      if (!(await merge(view, ackedBefore, all))) continue;
      if (!view.more) return;
      from = { owner: view.owner, seq: view.upTo };
    }
  }

  async function pull(): Promise<void> {
    again = true;
    pulling ??= (async () => {
      while (again) {
        again = false;
        await pullOnce();
      }
      joined = false;
      left = false;
    })().finally(() => (pulling = null));
    return pulling;
  }

  return {
    pull,
    async applied({ seqBefore, seq, repeated }, overtook) {
      const known =
        !overtook &&
        !repeated &&
        (await inTransaction(db, ['device'], async (tx) => {
          const at = (await tx.objectStore('device').get('cursor')) as Cursor | undefined;
          const current = at !== undefined && at.seq === seqBefore;
          if (current) await tx.objectStore('device').put({ ...at, seq }, 'cursor');
          return current;
        }));
      if (!known) return pull();
      if (shownSeq === seqBefore) shownSeq = seq;
    },
    async heard(seq) {
      const at = await cursor();
      if (at === null || seq !== at.seq) await pull();
    },
    async refetch(handInIds) {
      for (const id of handInIds) {
        const remote = await api.handIn(id).catch((error: unknown) => {
          if (error instanceof FotoplanError && error.code === 'NOT_FOUND') return null;
          throw error;
        });
        await documents.write(async () => {
          await inTransaction(db, [...STORES], async (tx) => {
            if (remote !== null) return mergeOne(tx, remote, false);
            const made = replay(
              null,
              (await outboxOf(tx, id)).map(({ operation }) => operation),
            );
            if (made === null) await forget(tx, id);
            else await tx.objectStore('handIns').put(made);
          });
          return [id];
        });
        onPulled([id], { boundFiles: [], gone: [] });
      }
    },
    async startOver() {
      joined = true;
      await db.delete('device', 'cursor');
      await pull();
    },
  };
}
