import { createStore, type StoreApi } from 'zustand/vanilla';
import { DELETE_WORD } from '../../contract/deleteWord';
import { FotoplanError } from '../../core/errors';
import { storageError } from '../../platform/browser/keptBytes/storageError';
import { onceOpened, type KeptBytes } from '../../platform/keptBytes';
import type { ApiClient } from '../data/apiClient';
import { createBoundFiles, type BoundFiles } from '../data/boundFiles';
import type { Command } from '../data/commands/planCommand';
import { createDocuments, type Documents, type NewOriginal } from '../data/documents';
import { moveOldBlobs, sweep } from '../data/housekeeping';
import { deviceKey, inTransaction, type DatabaseEvents, type LocalDatabase } from '../data/localDatabase';
import type { Locks } from '../data/locks';
import { createOriginals, type Originals } from '../data/originals';
import { createProfile, type Profile } from '../data/profile';
import { createSeen, type Seen } from '../data/seen';
import { createSender, type Sender, type SendState } from '../data/sender';
import type { OpenServerEvents, ServerEvents } from '../data/serverEvents';
import { createSync, type Sync } from '../data/sync';
import type { Tabs } from '../data/tabs';
import { createTimers, type Timers } from '../data/timers';
import { createBinding, type Binding } from '../jobs/binding';
import { createDerivedStore, type DerivedStore } from '../jobs/derivedStore';
import { createFinding, type Finding } from '../jobs/finding';
import { createIntake, type Intake } from '../jobs/intake';
import { createPageFacts, type PageFacts } from '../jobs/pageFacts';
import { createPagePictures, type PagePictures } from '../jobs/pagePictures';
import { createPageWords, type PageWords } from '../jobs/pageWords';
import { createReader, type Reader } from '../jobs/reader';
import { createScheduler, type Scheduler } from '../jobs/scheduler';
import { createSmallPictures, type SmallPictures } from '../jobs/smallPictures';

/** The outside things that an engine works with; handed in, so that tests start two of them beside a real server. */
export interface EngineOptions {
  readonly openDb: (events: DatabaseEvents) => Promise<LocalDatabase>;
  readonly openBytes: () => Promise<KeptBytes>;
  /** @param deviceKey - by which the server knows this device */
  readonly api: (deviceKey: string) => ApiClient;
  readonly events: OpenServerEvents;
  readonly tabs: () => Tabs;
  readonly locks: Locks;
  readonly spawnWorker: () => Worker;
  /** How many cores workers may use. */
  readonly cores: number;
  readonly reader?: Reader;
  readonly timers?: Timers;
  readonly now: () => number;
  readonly newId: () => string;
}

/** What concerns this device as a whole. */
export interface DeviceState {
  readonly running: RunningEngine | null;
  /** Why the engine could not start; start() may be called again. */
  readonly problem: FotoplanError | null;
  /** It was unlinked from another one: it may show nothing more. */
  readonly unlinked: boolean;
  /** It was unlinked and is by itself again, with what it had brought; its person has not been told yet. */
  readonly left: boolean;
  /** What this tab kept open is closed: a newer version runs in another tab, or the browser ended it. */
  readonly closed: 'newer' | 'lost' | null;
  /** Another tab keeps an older version open. */
  readonly blocked: boolean;
  /** Grows whenever the list of linked screens has changed. */
  readonly screensChanged: number;
}

/** What can be done once this device's store is open. */
export interface RunningEngine {
  readonly db: LocalDatabase;
  readonly bytes: KeptBytes;
  readonly api: ApiClient;
  readonly documents: Documents;
  readonly profile: Profile;
  readonly seen: Seen;
  readonly originals: Originals;
  readonly boundFiles: BoundFiles;
  readonly derived: DerivedStore;
  readonly scheduler: Scheduler;
  readonly small: SmallPictures;
  readonly pictures: PagePictures;
  readonly finding: Finding;
  readonly intake: Intake;
  readonly facts: PageFacts;
  readonly words: PageWords;
  readonly binding: Binding;
  /** What has not gone up, and why. */
  readonly sending: StoreApi<SendState>;
  readonly device: StoreApi<DeviceState>;
  readonly newId: () => string;
  /** Holds off sweeping, while work writes bytes before what refers to them. */
  readonly keeping: Locks['keeping'];
  /** The only writer of hand-ins; see Documents. */
  readonly dispatch: (command: Command, original?: NewOriginal) => Promise<boolean>;
  /** Settles once the server was asked for the first time, whatever came of it: it knows this device then. */
  readonly loaded: Promise<void>;
  /** Loads anew, after loading failed. */
  loadAgain(): Promise<void>;
  /** Fetches what is new. */
  pull(): Promise<void>;
  /** There may be a connection again: what rests is tried now. */
  hurry(): void;
  /** Tries what has not gone up again now, what was refused too. */
  retry(): Promise<void>;
  /** Lets something go that the server refused, with what means nothing without it; shows what then is so. */
  discard(key: number): Promise<void>;
  /** Acts for another owner from now on, whom this device has joined. */
  startOver(): Promise<void>;
  /** Drops photos that the server has from this device. @returns bytes freed */
  freeSpace(): Promise<number>;
  /** What could be freed. */
  freeable(): Promise<number>;
  /** Takes everything off this device. The engine is stopped then. */
  wipe(): Promise<void>;
  /**
   * Deletes all that this person has: on the server, on their other devices and here, as in `wipe`.
   * @throws FotoplanError where the server could not do it; then nothing is gone from here
   */
  deleteEverything(): Promise<void>;
  stop(): Promise<void>;
}

/** The client's engine: all that the app keeps, sends, fetches and computes, without any screen. */
export interface Engine {
  readonly device: StoreApi<DeviceState>;
  /** Opens the device's store and begins; after a failure once more. */
  start(): Promise<void>;
  stop(): Promise<void>;
}

export function createEngine(options: EngineOptions): Engine {
  const device = createStore<DeviceState>(() => ({
    running: null,
    problem: null,
    unlinked: false,
    left: false,
    closed: null,
    blocked: false,
    screensChanged: 0,
  }));
  let starting: Promise<void> | null = null;
  const begin = async (): Promise<void> => {
    device.setState({ problem: null });
    try {
      const running = await run(options, device);
      // nothing can be kept: that was noted meanwhile
      if (device.getState().problem === null) device.setState({ running });
    } catch (error) {
      device.setState({ problem: storageError(error) });
    }
  };
  return {
    device,
    start() {
      if (device.getState().running !== null) return Promise.resolve();
      starting ??= begin().finally(() => (starting = null));
      return starting;
    },
    async stop() {
      await starting;
      await device.getState().running?.stop();
      device.setState({ running: null });
    },
  };
}

const ALL_SENT: SendState = { waiting: null, connection: 'up', problem: null, refused: [], held: 0 };

/**
 * Opens what this device keeps and shows it; then asks the server, sends what waits, listens and looks for paper.
 * @returns once the store is open; `documents.state` tells how loading goes on
 * @throws where this browser keeps nothing
 */
async function run(options: EngineOptions, device: StoreApi<DeviceState>): Promise<RunningEngine> {
  const {
    openDb,
    openBytes,
    api: createApi,
    events,
    tabs: openTabs,
    locks,
    spawnWorker,
    reader = createReader(),
    timers = createTimers(),
    now,
    newId,
  } = options;
  const note = (changes: Partial<DeviceState>): void => device.setState(changes);
  const db = await openDb({
    onBlocked: () => note({ blocked: true }),
    onOutdated: () => note({ closed: 'newer' }),
    onLost: () => note({ closed: 'lost' }),
  });
  note({ blocked: false });
  // hand-ins are shown while the place for bytes is still being tried
  const opening = openBytes();
  opening.catch((error: unknown) => note({ running: null, problem: storageError(error) }));
  const bytes = onceOpened(opening);
  const tabs = openTabs();
  const api = createApi(await deviceKey(db));
  const originals = createOriginals(db, bytes, api);
  const derived = createDerivedStore(db, now);
  const sending = createStore<SendState>(() => ALL_SENT);
  const scheduler = createScheduler(spawnWorker, options.cores);
  const small = createSmallPictures({ derived, originals, api, scheduler });

  const wake = (): void => {
    // nobody may read that all is saved until the sender has looked
    sending.setState(({ waiting }) => ({ waiting: Math.max(1, waiting ?? 0) }));
    sender.wake();
  };
  const documents: Documents = createDocuments({
    db,
    bytes,
    locks,
    now,
    newId,
    makeRoom: async () => (await derived.shrink(0)) > 0,
    onWritten: (ids) => {
      tabs.tell({ kind: 'handIns', ids });
      wake();
    },
  });
  const profile = createProfile(db, () => {
    tabs.tell({ kind: 'profile' });
    wake();
  });
  const boundFiles = createBoundFiles(db, bytes, locks, api, (handInId) => {
    tabs.tell({ kind: 'boundFile', handInId });
    wake();
  });
  const sync: Sync = createSync({
    db,
    api,
    documents,
    now,
    newId,
    onLeft: () => device.setState((s) => ({ left: true, screensChanged: s.screensChanged + 1 })),
    onPulled: (ids, news) => {
      if (documents.state.getState().loading === 'failed')
        documents.state.setState({ loading: 'ready', problem: null });
      if (ids.length > 0) tabs.tell({ kind: 'handIns', ids });
      for (const handInId of news.gone) void boundFiles.forget(handInId);
      // what nobody looks at is fetched when somebody does
      for (const handInId of news.boundFiles)
        if (boundFiles.state.getState().files[handInId] !== undefined) void boundFiles.load(handInId);
      if (news.profile !== undefined) void profile.take(news.profile);
      // a hand-in that the server lost has been put into the outbox
      sender.wake();
    },
  });
  const later = (work: Promise<unknown>): void => void work.catch(() => undefined); // without a connection it is made up for at the next word of the server
  // the server cuts off whoever deletes everything, and may tell so before it answers
  let deleting = false;
  const unlink = (): void => {
    if (!deleting) note({ unlinked: true });
  };
  const sender: Sender = createSender({
    db,
    bytes,
    api,
    timers,
    locks,
    sendPictures: (originalId) => small.send(originalId),
    report: (state) => sending.setState(state),
    onOutboxChanged: () => tabs.tell({ kind: 'outbox' }),
    onApplied: (answer, overtook, handInIds) => {
      // another tab may have made them, and gone without a word
      later(documents.reload(handInIds));
      later(sync.applied(answer, overtook));
    },
    onUnlinked: unlink,
  });
  const dispatch: RunningEngine['dispatch'] = (command, original) => documents.dispatch(command, original);
  const intake = createIntake({ documents, scheduler, newId });
  const finding = createFinding({
    documents: documents.state,
    dispatch,
    originals,
    small,
    scheduler,
    timers,
    onUnusable: (handInId, fileName, problem) => intake.reportUnusable(handInId, fileName, problem),
  });
  const words = createPageWords({ derived, small, scheduler, reader });
  const pictures = createPagePictures(derived, small, scheduler);

  tabs.listen((message) => {
    if (message.kind === 'handIns') later(documents.reload(message.ids).then(wake));
    else if (message.kind === 'outbox') later(sender.refresh());
    else if (message.kind === 'profile') later(profile.load());
    else later(boundFiles.load(message.handInId));
  });

  let listening: ServerEvents | null = null;
  let stopped = false;

  async function askWhyRefused(): Promise<void> {
    await api.profile().catch((error: unknown) => {
      if (error instanceof FotoplanError && error.code === 'SCREEN_CUT_OFF') unlink();
    });
  }

  function listen(): void {
    listening ??= events(
      (event) => {
        // asking also takes this device's cookie away, so that it can start afresh
        if (event.kind === 'cutOff') later(askWhyRefused());
        else if (event.kind === 'left') later(sync.pull());
        else if (event.kind === 'screens') device.setState((s) => ({ screensChanged: s.screensChanged + 1 }));
        else later(sync.heard(event.seq));
      },
      () => later(askWhyRefused()),
    );
  }

  /** What this device has at once, then what the server has. */
  async function load(): Promise<void> {
    let some = false;
    try {
      [some] = await Promise.all([documents.load(), profile.load(), seen.load()]);
      if (some) documents.state.setState({ loading: 'ready' });
      finding.start();
      await sync.pull();
    } catch (error) {
      if (error instanceof FotoplanError && error.code === 'SCREEN_CUT_OFF') unlink();
      const problem =
        error instanceof FotoplanError
          ? error
          : new FotoplanError('INTERNAL', 'Something on this device broke. Reload to try again.', {}, { cause: error });
      if (!some && !stopped) documents.state.setState({ loading: 'failed', problem });
    }
    if (stopped) return;
    if (documents.state.getState().loading === 'loading') documents.state.setState({ loading: 'ready' });
    sender.wake();
    // only now: the server knows this device by its first request
    listen();
    // nobody waits for it
    later(moveOldBlobs(db, bytes).then(() => locks.sweeping(() => sweep(db, bytes))));
  }

  async function halt(): Promise<void> {
    stopped = true;
    listening?.close();
    finding.stop();
    scheduler.stop();
    await sender.stop();
    timers.clear();
    pictures.stop();
    tabs.close();
  }

  /** Originals of pages that the server surely has, if it has the photo. */
  const referred = (): ReadonlySet<string> =>
    new Set(
      Object.values(documents.state.getState().handIns).flatMap(({ pages }) =>
        pages.map(({ originalId }) => originalId),
      ),
    );

  const seen = createSeen(db);
  const engine: RunningEngine = {
    db,
    bytes,
    api,
    documents,
    profile,
    seen,
    originals,
    boundFiles,
    derived,
    scheduler,
    small,
    pictures,
    finding,
    intake,
    facts: createPageFacts({ derived, small, scheduler, reader }),
    words,
    binding: createBinding({ documents, boundFiles, small, words, scheduler, now, newId }),
    sending,
    device,
    newId,
    keeping: (work) => locks.keeping(work),
    dispatch,
    loaded: load(),
    async loadAgain() {
      documents.state.setState({ loading: 'loading', problem: null });
      await load();
    },
    pull: () => sync.pull(),
    hurry() {
      sender.hurry();
      later(sync.pull());
    },
    async retry() {
      await sender.retry();
      later(sync.pull());
    },
    async discard(key) {
      // first what the server has: without it nobody knows what then is so
      await sync.pull();
      const handInIds = await sender.discard(key);
      await sync.refetch(handInIds);
      sender.wake();
    },
    async startOver() {
      await sync.startOver();
      device.setState((s) => ({ screensChanged: s.screensChanged + 1 }));
    },
    async freeable() {
      await engine.loaded;
      return (await originals.droppable(referred())).bytes;
    },
    async freeSpace() {
      const { ids } = await originals.droppable(referred());
      return originals.drop(ids);
    },
    async wipe() {
      await halt();
      await bytes.clear();
      // cleared first: another tab may hold the database, and then it is deleted only once that is closed
      await inTransaction(db, [...db.objectStoreNames], async (tx) => {
        for (const store of db.objectStoreNames) await tx.objectStore(store).clear();
      });
      db.close();
      await deleteDatabase(db.name);
    },
    async deleteEverything() {
      deleting = true;
      try {
        await api.deleteEverything(DELETE_WORD);
      } catch (error) {
        deleting = false;
        if (error instanceof FotoplanError && error.code === 'SCREEN_CUT_OFF') unlink();
        throw error;
      }
      await engine.wipe();
    },
    async stop() {
      await halt();
      db.close();
    },
  };
  return engine;
}

const deleteDatabase = (name: string): Promise<void> =>
  new Promise((resolve) => {
    const request = indexedDB.deleteDatabase(name);
    request.onsuccess = request.onerror = request.onblocked = () => resolve();
  });
