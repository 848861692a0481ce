import { FotoplanError, toWireError, type WireError } from '../../core/errors';
import type { AppliedView } from '../../contract/views';
import type { KeptBytes } from '../../platform/keptBytes';
import type { ApiClient } from './apiClient';
import { verdictOn, type Verdict } from './answers';
import { boundName, originalName } from './byteNames';
import { inTransaction, type LocalDatabase } from './localDatabase';
import type { Locks } from './locks';
import { discardedWith, handInOf, overtakes, planSending, type OutboxEntry, type OutboxItem } from './outbox';
import type { Timers } from './timers';

/** What has not gone up, and why. */
export interface SendState {
  /** Items that have not gone up yet, refused ones not among them; null until it is known. */
  readonly waiting: number | null;
  readonly connection: 'up' | 'down';
  /** Why sending rests, where that is not the connection. */
  readonly problem: WireError | null;
  readonly refused: readonly OutboxEntry[];
  /** What waits for something refused. */
  readonly held: number;
}

export interface Sender {
  /** Call after something was put into the outbox, or when the connection may be back. */
  wake(): void;
  /** Tells anew what waits: another tab has sent something. */
  refresh(): Promise<void>;
  /** Tries what rests now: there may be a connection again. */
  hurry(): void;
  /** Tries everything again now, what was refused too. */
  retry(): Promise<void>;
  /** Lets a refused item go, with what means nothing without it. @returns the hand-ins that are other now */
  discard(key: number): Promise<readonly string[]>;
  /** Rejects nothing; resolves once nothing is under way. */
  stop(): Promise<void>;
}

export interface SenderOptions {
  readonly db: LocalDatabase;
  readonly bytes: KeptBytes;
  readonly api: ApiClient;
  readonly timers: Timers;
  readonly locks: Pick<Locks, 'sending'>;
  /** Sends the small pictures of an original before it, as far as there are any. */
  readonly sendPictures: (originalId: string) => Promise<void>;
  readonly report: (state: SendState) => void;
  /** The outbox is shorter, or something in it was refused: other tabs want to know. */
  readonly onOutboxChanged: () => void;
  /** Operations were applied; the server's numbers before and after, whether they overtook others that wait, and what they were about. */
  readonly onApplied: (applied: AppliedView, overtook: boolean, handInIds: readonly string[]) => void;
  /** The server knows this device no longer. */
  readonly onUnlinked: () => void;
}

/** How long a failed item rests, doubled each time up to the most. */
const FIRST_REST_MS = 1500;
const MAX_REST_MS = 120_000;
const MAX_OPERATIONS = 200;
const MAX_UPLOADS = 2;
/** Bytes that arrive as others than they are time and again are damaged here, not on the way. */
const MAX_HASH_TRIES = 4;

interface Task {
  readonly entries: readonly OutboxEntry[];
  readonly send: () => Promise<void>;
}

/** Sends the outbox: operations in batches, large bytes beside them, each as soon as nothing holds it back. */
export function createSender({
  db,
  bytes,
  api,
  timers,
  locks,
  sendPictures,
  report,
  onOutboxChanged,
  onApplied,
  onUnlinked,
}: SenderOptions): Sender {
  const running = new Map<Task, Promise<void>>();
  const tries = new Map<number, number>();
  const resting = new Set<number>();
  let wholeLineRests = false;
  let lineTries = 0;
  let connection: SendState['connection'] = 'up';
  let problem: WireError | null = null;
  /** After a batch was refused without saying which of it: one by one, until one is found. */
  let oneByOne = false;
  let draining: Promise<void> | null = null;
  let again = false;
  let stopped = false;
  let unlinked = false;
  let noteWoken: () => void = () => undefined;

  const readOutbox = async (): Promise<OutboxEntry[]> => {
    const store = db.transaction('outbox').store;
    const [keys, items] = await Promise.all([store.getAllKeys(), store.getAll()]);
    return keys.map((key, i) => ({ key, item: items[i]! }));
  };
  const underWay = (key: number): boolean =>
    [...running.keys()].some(({ entries }) => entries.some((entry) => entry.key === key));
  const plan = (outbox: readonly OutboxEntry[]) => planSending(outbox, (key) => resting.has(key), underWay);
  const tell = (outbox: readonly OutboxEntry[]): void => {
    const refused = outbox.filter(({ item }) => item.refused !== undefined);
    const { held } = planSending(
      outbox.filter(({ item }) => item.kind !== 'original' || item.refused !== undefined),
      () => false,
      () => false,
    );
    report({ waiting: outbox.length - refused.length, connection, problem, refused, held: held.length });
  };

  const drop = async (keys: readonly number[]): Promise<void> => {
    await inTransaction(db, ['outbox', 'device'], async (tx) => {
      const acked = (await tx.objectStore('device').get('acked')) as number | undefined;
      await tx.objectStore('device').put((acked ?? 0) + 1, 'acked');
      for (const key of keys) await tx.objectStore('outbox').delete(key);
    });
    for (const key of keys) tries.delete(key);
    onOutboxChanged();
  };

  /** What an item sends; null where what it names is no longer here, so that there is nothing to send. */
  const payloadOf = async (item: OutboxItem): Promise<(() => Promise<void>) | null> => {
    if (item.kind === 'original') {
      const blob = await bytes.get(originalName(item.originalId));
      return blob === null
        ? null
        : () => sendPictures(item.originalId).then(() => api.sendOriginal(item.originalId, blob));
    }
    if (item.kind === 'profile') {
      const profile = await db.get('profile', 'own');
      return profile === undefined ? null : () => api.sendProfile(profile);
    }
    if (item.kind === 'boundFile') {
      const file = await db.get('boundFiles', item.handInId);
      const blob = file === undefined ? null : await bytes.get(boundName(file.id));
      if (file === undefined || blob === null) return null;
      const { madeFrom, pageBytes, codings } = file;
      return () =>
        api.sendBoundFile(item.handInId, {
          ...file,
          blob,
          pages: pageBytes.length,
          facts: { madeFrom, pageBytes, codings },
        });
    }
    return null;
  };

  function tasksFrom(outbox: readonly OutboxEntry[], ready: readonly OutboxEntry[]): Task[] {
    const tasks: Task[] = [];
    const operating = [...running.keys()].some(({ entries }) => entries[0]!.item.kind === 'operation');
    const operations = ready
      .flatMap((entry) => (entry.item.kind === 'operation' ? [{ entry, operation: entry.item.operation }] : []))
      .slice(0, oneByOne ? 1 : MAX_OPERATIONS);
    if (!operating && operations.length > 0) {
      const entries = operations.map(({ entry }) => entry);
      const overtook = overtakes(outbox, entries);
      const handInIds = [...new Set(operations.map(({ operation }) => operation.handInId))];
      tasks.push({
        entries,
        send: async () =>
          onApplied(await api.sendOperations(operations.map(({ operation }) => operation)), overtook, handInIds),
      });
    }
    const uploading = [...running.keys()].filter(({ entries }) => entries[0]!.item.kind !== 'operation').length;
    for (const entry of ready.filter(({ item }) => item.kind !== 'operation').slice(0, MAX_UPLOADS - uploading)) {
      tasks.push({ entries: [entry], send: async () => (await payloadOf(entry.item))?.() });
    }
    return tasks;
  }

  const restMs = (times: number): number => Math.min(MAX_REST_MS, FIRST_REST_MS * 2 ** (times - 1));
  const restLine = (ms: number): void => {
    wholeLineRests = true;
    timers.set(ms, () => {
      wholeLineRests = false;
      wake();
    });
  };
  const restItem = (key: number): void => {
    const times = (tries.get(key) ?? 0) + 1;
    tries.set(key, times);
    resting.add(key);
    timers.set(restMs(times), () => {
      resting.delete(key);
      wake();
    });
  };

  const refuse = async (entry: OutboxEntry, error: FotoplanError): Promise<void> => {
    await inTransaction(db, ['outbox'], async (tx) => {
      const item = await tx.objectStore('outbox').get(entry.key);
      if (item !== undefined)
        await tx.objectStore('outbox').put({ ...item, refused: toWireError(error, '') }, entry.key);
    });
    onOutboxChanged();
  };

  /** A photo that the server lacks goes up once more, where it is here. @returns whether it is */
  const resendOriginal = async ({ item }: OutboxEntry): Promise<boolean> => {
    if (item.kind !== 'operation' || !('originalId' in item.operation)) return false;
    const { originalId } = item.operation;
    if ((await bytes.get(originalName(originalId))) === null) return false;
    const waits = (await readOutbox()).some(
      (other) => other.item.kind === 'original' && other.item.originalId === originalId,
    );
    if (!waits) await db.add('outbox', { kind: 'original', originalId });
    return true;
  };

  async function settleRefusal({ entries }: Task, error: FotoplanError): Promise<void> {
    const named = entries.find(
      ({ item }) => item.kind === 'operation' && item.operation.id === error.facts.operationId,
    );
    if (named === undefined && entries.length > 1) {
      oneByOne = true;
      return;
    }
    oneByOne = false;
    const entry = named ?? entries[0]!;
    if (
      error.code === 'ORIGINAL_MISSING' &&
      (tries.get(entry.key) ?? 0) < MAX_HASH_TRIES &&
      (await resendOriginal(entry))
    )
      return void tries.set(entry.key, (tries.get(entry.key) ?? 0) + 1);
    await refuse(entry, error);
  }

  async function settleFailure(task: Task, error: unknown): Promise<void> {
    const verdict: Verdict = verdictOn(error);
    const told = toWireError(error, 'This could not be sent. It is tried again by itself.');
    switch (verdict.kind) {
      case 'lineDown':
        connection = 'down';
        problem = null;
        return restLine(restMs(++lineTries));
      case 'slowDown':
        problem = told;
        return restLine(verdict.afterMs ?? restMs(++lineTries));
      case 'unlinked':
        unlinked = true;
        return onUnlinked();
      case 'refused':
        return settleRefusal(task, verdict.error);
      case 'tryLater': {
        const [only] = task.entries;
        if (
          error instanceof FotoplanError &&
          error.code === 'HASH_MISMATCH' &&
          (tries.get(only!.key) ?? 0) >= MAX_HASH_TRIES
        )
          return refuse(only!, error);
        problem = told;
        for (const { key } of task.entries) restItem(key);
      }
    }
  }

  function start(task: Task): void {
    const work = task
      .send()
      .then(async () => {
        connection = 'up';
        lineTries = 0;
        await drop(task.entries.map(({ key }) => key));
        if (resting.size === 0) problem = null;
      })
      .catch((error: unknown) => (stopped ? undefined : settleFailure(task, error)))
      // this device could not note what came of it: it is sent once more, and the server applies it once
      .catch(() => task.entries.forEach(({ key }) => restItem(key)))
      .finally(() => running.delete(task));
    running.set(task, work);
  }

  async function drain(): Promise<void> {
    while (!stopped && !unlinked) {
      again = false;
      const outbox = await readOutbox();
      if (outbox.length === 0) problem = null;
      tell(outbox);
      if (!wholeLineRests) for (const task of tasksFrom(outbox, plan(outbox).ready)) start(task);
      if (running.size === 0) {
        if (again) continue;
        return;
      }
      const woken = new Promise<void>((resolve) => (noteWoken = resolve));
      if (again) continue;
      await Promise.race([...running.values(), woken]);
    }
    await Promise.all(running.values());
  }

  function wake(): void {
    again = true;
    noteWoken();
    if (draining !== null || stopped || unlinked) return;
    draining = refresh()
      .then(() => locks.sending(drain))
      // the database may be closing: what waits is still there at the next start
      .catch(() => undefined)
      .finally(() => {
        draining = null;
        if (again && !stopped && !unlinked) wake();
      });
  }

  function hurry(): void {
    resting.clear();
    tries.clear();
    wholeLineRests = false;
    lineTries = 0;
    wake();
  }
  const refresh = async (): Promise<void> => tell(await readOutbox());

  return {
    wake,
    refresh,
    hurry,
    async retry() {
      await inTransaction(db, ['outbox'], async (tx) => {
        for (
          let cursor = await tx.objectStore('outbox').openCursor();
          cursor !== null;
          cursor = await cursor.continue()
        ) {
          const { refused, ...item } = cursor.value;
          if (refused !== undefined) await cursor.update(item);
        }
      });
      hurry();
    },
    async discard(key) {
      const outbox = await readOutbox();
      const entry = outbox.find((each) => each.key === key);
      if (entry === undefined) return [];
      const keys = discardedWith(outbox, entry);
      const touched = outbox.filter((each) => keys.includes(each.key)).flatMap(({ item }) => handInOf(item) ?? []);
      await inTransaction(db, ['outbox'], async (tx) => {
        for (const each of keys) await tx.objectStore('outbox').delete(each);
      });
      return [...new Set(touched)];
    },
    async stop() {
      stopped = true;
      timers.clear();
      noteWoken();
      await draining;
    },
  };
}
