import { createHash } from 'node:crypto';
import type { HandIn } from '../../core/work/hand-in/handIn';
import { recipeOf } from '../../core/work/recipe/plainRecipe';
import { wholePicture } from '../../core/imaging/geometry/quad';
import type { Random } from '../../demo/random';
import type { KeptBytes } from '../../platform/keptBytes';
import { createApiClient } from '../../src/data/apiClient';
import { openLocalDatabase, type DatabaseEvents, type LocalDatabase } from '../../src/data/localDatabase';
import { createLocks, type Locks } from '../../src/data/locks';
import type { OpenServerEvents } from '../../src/data/serverEvents';
import type { TabMessage, Tabs } from '../../src/data/tabs';
import { createTimers } from '../../src/data/timers';
import { createEngine, type Engine, type RunningEngine } from '../../src/engine/createEngine';
import type { FromWorker, JobRequest, ToWorker } from '../../src/jobs/jobProtocol';
import type { FaultyNetwork } from './faultyNetwork';
import { ALL_STRAIGHT } from '../../core/imaging/geometry/bentOutline';
import { readTimeTaken } from '../../platform/readTimeTaken';

/** Waits of minutes take milliseconds here. */
const TIME_SCALE = 1 / 1500;
const PATIENCE_MS = 3000;
export const PHOTO_SIZE = { width: 300, height: 424 };

/** A browser profile: what is kept on the device, shared by its tabs, outliving each of them. */
export class Device {
  private readonly kept = new Map<string, Blob>();
  private readonly listeners = new Set<{ readonly tab: Tab; readonly hear: (message: TabMessage) => void }>();
  private readonly held = new Map<string, { readonly mode: LockMode; readonly released: Promise<void> }[]>();
  /** By how much its clock is wrong. */
  clockSkewMs = 0;
  readonly tabs: Tab[] = [];

  constructor(
    readonly name: string,
    readonly network: FaultyNetwork,
    private readonly address: () => string,
    readonly random: Random,
  ) {}

  readonly bytes: KeptBytes = {
    put: (name, blob) => Promise.resolve(void this.kept.set(name, blob)),
    get: (name) => Promise.resolve(this.kept.get(name) ?? null),
    delete: (name) => Promise.resolve(void this.kept.delete(name)),
    list: () => Promise.resolve([...this.kept.keys()]),
    clear: () => Promise.resolve(this.kept.clear()),
  };

  /** A browser's locks, as far as the app uses them. */
  readonly locks: Locks = createLocks({
    request: async (
      name: string,
      options: LockOptions | LockGrantedCallback<unknown>,
      granted?: LockGrantedCallback<unknown>,
    ) => {
      const { mode = 'exclusive', ifAvailable = false } = typeof options === 'function' ? {} : options;
      const work = granted ?? (options as LockGrantedCallback<unknown>);
      const held = this.held.get(name) ?? [];
      this.held.set(name, held);
      const free = (): boolean => held.every((other) => mode === 'shared' && other.mode === 'shared');
      if (!free() && ifAvailable) return work(null);
      while (!free()) await Promise.race(held.map(({ released }) => released));
      let release = (): void => undefined;
      const own = { mode, released: new Promise<void>((resolve) => (release = resolve)) };
      held.push(own);
      try {
        return await work({ name, mode });
      } finally {
        held.splice(held.indexOf(own), 1);
        release();
      }
    },
  } as LockManager);

  channelOf(tab: Tab): Tabs {
    const own: { readonly tab: Tab; hear: (message: TabMessage) => void } = { tab, hear: () => undefined };
    return {
      tell: (message) => {
        for (const { tab: other, hear } of this.listeners) if (other !== tab) queueMicrotask(() => hear(message));
      },
      listen: (hear) => {
        own.hear = hear;
        this.listeners.add(own);
      },
      close: () => void this.listeners.delete(own),
    };
  }

  /** Server-sent events, read off a plain answer. */
  readonly events: OpenServerEvents = (onEvent) => {
    const stopper = new AbortController();
    const listen = async (): Promise<void> => {
      const response = await fetch(`${this.address()}/api/events`, {
        signal: stopper.signal,
        headers: { 'x-fotoplan-device': this.key },
      });
      const reader = response.body!.pipeThrough(new TextDecoderStream()).getReader();
      for (let { done, value } = await reader.read(); !done; { done, value } = await reader.read()) {
        for (const line of value!.split('\n'))
          if (line.startsWith('data: ')) onEvent(JSON.parse(line.slice(6)) as Parameters<typeof onEvent>[0]);
      }
    };
    void listen().catch(() => undefined);
    return { close: () => stopper.abort() };
  };
  /** Known once a tab has opened. */
  key = '';

  private get databaseName(): string {
    return `histories ${this.name}`;
  }
  readonly openDb = (events: DatabaseEvents): Promise<LocalDatabase> => openLocalDatabase(events, this.databaseName);
  /** Lets go of what it kept, once all its tabs are closed: thousands of devices live in one process. */
  forget(): void {
    this.kept.clear();
    indexedDB.deleteDatabase(this.databaseName);
  }

  async open(): Promise<Tab> {
    const tab = new Tab(this);
    await tab.start();
    this.tabs.push(tab);
    return tab;
  }
}

let lastId = 0;

/** A tab: an engine that can be ended at any moment. */
export class Tab {
  private readonly engine: Engine;
  private readonly ended: Promise<unknown>[] = [];

  constructor(readonly device: Device) {
    this.engine = createEngine({
      openDb: device.openDb,
      openBytes: () => Promise.resolve(device.bytes),
      api: (key) => {
        device.key = key;
        return createApiClient(device.network.fetch, key, PATIENCE_MS);
      },
      events: device.events,
      tabs: () => device.channelOf(this),
      locks: device.locks,
      spawnWorker: () => new ScriptedWorker() as unknown as Worker,
      cores: 2,
      reader: { lines: () => Promise.resolve([]), words: () => Promise.resolve([]) },
      timers: createTimers(((then: () => void, ms: number) => setTimeout(then, ms * TIME_SCALE)) as typeof setTimeout),
      now: () => Date.now() + device.clockSkewMs,
      newId: () => `id-${device.name}-${String(++lastId).padStart(6, '0')}`,
    });
  }

  async start(): Promise<void> {
    await this.engine.start();
    const { problem } = this.engine.device.getState();
    if (problem !== null) throw problem;
  }
  get running(): RunningEngine {
    return this.engine.device.getState().running!;
  }
  get handIns(): readonly HandIn[] {
    return Object.values(this.running.documents.state.getState().handIns);
  }
  /** As when the browser dies: nothing is waited for, what is under way is lost. */
  crash(): void {
    this.running.db.close();
    this.ended.push(this.engine.stop().catch(() => undefined));
    this.device.tabs.splice(this.device.tabs.indexOf(this), 1);
  }
  async close(): Promise<void> {
    this.device.tabs.splice(this.device.tabs.indexOf(this), 1);
    await this.engine.stop();
  }
}

/** Does what the browser's worker does, without pixels. */
class ScriptedWorker {
  onmessage: ((event: { data: FromWorker }) => void) | null = null;
  onerror: (() => void) | null = null;
  onmessageerror: (() => void) | null = null;
  postMessage({ id, request }: ToWorker): void {
    setTimeout(() => void this.answer(id, request), 1);
  }
  terminate(): void {
    this.onmessage = null;
  }
  private async answer(id: number, request: JobRequest): Promise<void> {
    const { width, height } = PHOTO_SIZE;
    if (request.kind === 'check') {
      const bytes = new Uint8Array(await request.blob.arrayBuffer());
      const originalId = createHash('sha256').update(bytes).digest('hex');
      const takenAtMs = await readTimeTaken(bytes);
      this.onmessage?.({
        data: { id, ok: true, result: { originalId, isPdf: false, pages: [PHOTO_SIZE], takenAtMs, forbids: [] } },
      });
      return;
    }
    if (request.kind === 'find') {
      const recipe = recipeOf(
        { corners: wholePicture(width, height), bends: ALL_STRAIGHT, lines: [], by: 'found', confidence: 0.9 },
        request.finish,
        request.pageKind,
      );
      const verdict = {
        findings: [],
        missing: null,
        edgeWidthMm: null,
        slipped: false,
        effectiveDpi: 200,
        glareAt: null,
        cutSides: [],
        thumbSides: [],
        paperLightness: 200,
        pixelNoise: 0,
      };
      this.onmessage?.({
        data: {
          id,
          ok: true,
          result: {
            width,
            height,
            pages: [{ recipe, verdict }, ...(request.pageKind === 'spread' ? [{ recipe, verdict }] : [])],
          },
        },
      });
      return;
    }
    this.onmessage?.({ data: { id, ok: false, error: { code: 'WORKER_LOST', message: 'not here', facts: {} } } });
  }
}
