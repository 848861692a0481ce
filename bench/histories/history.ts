import { isDeepStrictEqual } from 'node:util';
import { setTimeout as pause } from 'node:timers/promises';
import { shownPages, type HandIn, type Page } from '../../core/work/hand-in/handIn';
import { createRandom, type Random } from '../../demo/random';
import { samplePhoto, startTestServer, type TestServer } from '../../server/testServer';
import { Device, type Tab } from './device';
import { createFaultyNetwork, type FaultyNetwork } from './faultyNetwork';

/*
 * Two linked devices with their real engines and the real server in one process, while everything goes wrong: refusals, pages of
 * proxies, lost answers, restarts, crashes in the middle of a write, closed tabs and clocks that jump. Once the storm is over
 * and everything was tried again, no page may be lost or doubled, and all must agree.
 */

const ACTS = 24;
const DAY_MS = 24 * 3600 * 1000;
const SETTLE_MS = 20_000;

/** What was promised to the person: pages whose adding resolved, and those deleted for good. */
interface Promised {
  readonly pages: Map<string, Set<string>>;
  readonly gone: Set<string>;
}

/** A write that dies in its middle: the put after so many throws, as when a browser is killed. */
interface CrashingWrites {
  putsLeft: number | null;
}
const crashing: CrashingWrites = { putsLeft: null };
let patched = false;
function patchPut(): void {
  if (patched) return;
  patched = true;
  const { prototype } = IDBObjectStore;
  const put = Reflect.get(prototype, 'put') as (this: IDBObjectStore, ...args: unknown[]) => IDBRequest<IDBValidKey>;
  prototype.put = function (...args: unknown[]) {
    if (crashing.putsLeft !== null && crashing.putsLeft-- <= 0) {
      crashing.putsLeft = null;
      throw new DOMException('the browser died', 'UnknownError');
    }
    return put.apply(this, args);
  };
}

/**
 * Plays one history.
 * @returns what is wrong in the end, or null
 */
export async function playHistory(seed: number): Promise<string | null> {
  patchPut();
  const random = createRandom(seed);
  let server: TestServer = await startTestServer({ config: { REQUESTS_A_MINUTE: 1e9, DEMO: false } });
  const network: FaultyNetwork = createFaultyNetwork(random, () => server.url);
  const photos = await Promise.all(Array.from({ length: 6 }, (_, i) => samplePhoto(20 + 30 * i + (seed % 7))));
  const devices = ['a', 'b'].map((name) => new Device(`${name}${seed}`, network, () => server.url, random));
  const promised: Promised = { pages: new Map(), gone: new Set() };
  try {
    network.stormy = false;
    for (const device of devices) await device.open();
    await link(devices[0]!.tabs[0]!, devices[1]!.tabs[0]!);
    network.stormy = true;
    for (let n = 0; n < ACTS; n++) {
      const device = random.pick(devices);
      if (device.tabs.length === 0) await device.open();
      const tab = random.pick(device.tabs);
      if (random.chance(0.06)) server = await server.restart();
      await act(tab, random, photos, promised, n);
      if (random.chance(0.3)) await pause(random.whole(0, 8));
    }
    network.stormy = false;
    crashing.putsLeft = null;
    return await settled(devices, server, promised);
  } finally {
    crashing.putsLeft = null;
    for (const device of devices) {
      for (const tab of [...device.tabs]) await tab.close();
      device.forget();
    }
    await server.close();
  }
}

async function link(from: Tab, to: Tab): Promise<void> {
  await until(
    () =>
      from.running.documents.state.getState().loading === 'ready' &&
      to.running.documents.state.getState().loading === 'ready',
  );
  const { code } = await from.running.api.linkCode();
  await to.running.api.link(code);
  await to.running.startOver();
}

async function act(
  tab: Tab,
  random: Random,
  photos: readonly Uint8Array[],
  promised: Promised,
  n: number,
): Promise<void> {
  const { device } = tab;
  const { running } = tab;
  const handIns = tab.handIns.filter(({ removedAtMs }) => removedAtMs === null);
  const handIn = handIns.length === 0 ? null : random.pick(handIns);
  const what =
    handIn === null
      ? 'create'
      : random.pick([
          'add',
          'add',
          'add',
          'add',
          'turn',
          'turn',
          'delete',
          'restore',
          'order',
          'leaveOut',
          'undo',
          'redo',
          'copy',
          'deleteForGood',
          'create',
          'deleteHandIn',
          'restoreHandIn',
          'crash',
          'midWrite',
          'closeTab',
          'openTab',
          'clock',
          'pull',
          'retry',
        ] as const);
  const page = handIn === null || handIn.pages.length === 0 ? null : random.pick(handIn.pages);
  const tried = <T>(work: Promise<T>): Promise<T | null> => work.catch(() => null);
  switch (what) {
    case 'create': {
      const handInId = `hand-in-${device.name}-${n}`;
      const made = await tried(
        running.dispatch({
          kind: 'createHandIn',
          handInId,
          title: `Set ${n}`,
          paper: 'auto',
          binding: {},
          assignmentId: null,
        }),
      );
      if (made === true) promised.pages.set(handInId, new Set());
      return;
    }
    case 'midWrite':
      // the next write dies after so many puts, and its tab with it
      crashing.putsLeft = random.whole(0, 4);
      await add(tab, random, photos, handIn!, promised);
      crashing.putsLeft = null;
      tab.crash();
      return;
    case 'add':
      return add(tab, random, photos, handIn!, promised);
    case 'turn':
      if (page !== null)
        await tried(running.dispatch({ kind: 'turnPages', handInId: handIn!.id, pageIds: [page.id], turns: 1 }));
      return;
    case 'delete':
      if (page !== null)
        await tried(running.dispatch({ kind: 'deletePages', handInId: handIn!.id, pageIds: [page.id] }));
      return;
    case 'restore':
      await tried(
        running.dispatch({ kind: 'restorePages', handInId: handIn!.id, pageIds: handIn!.pages.map(({ id }) => id) }),
      );
      return;
    case 'order':
      await tried(running.dispatch({ kind: 'reverseOrder', handInId: handIn!.id }));
      return;
    case 'leaveOut':
      if (page !== null)
        await tried(
          running.dispatch({
            kind: 'leaveOutPages',
            handInId: handIn!.id,
            pageIds: [page.id],
            leftOut: random.chance(0.5),
          }),
        );
      return;
    case 'undo':
      await tried(running.documents.undo(handIn!.id));
      return;
    case 'redo':
      await tried(running.documents.redo(handIn!.id));
      return;
    case 'copy': {
      if (page === null) return;
      const before = new Set(handIn!.pages.map(({ id }) => id));
      if (
        (await tried(running.dispatch({ kind: 'duplicatePages', handInId: handIn!.id, pageIds: [page.id] }))) !== true
      )
        return;
      for (const { id } of tab.handIns.find(({ id }) => id === handIn!.id)?.pages ?? [])
        if (!before.has(id) && id.startsWith(`id-${device.name}`)) promised.pages.get(handIn!.id)?.add(id);
      return;
    }
    case 'deleteForGood':
      if (page === null || !random.chance(0.3)) return;
      // wanted is enough: whether it was written, the end shows
      promised.gone.add(page.id);
      await tried(running.dispatch({ kind: 'deletePagesForGood', handInId: handIn!.id, pageIds: [page.id] }));
      return;
    case 'deleteHandIn':
      await tried(running.dispatch({ kind: 'deleteHandIn', handInId: handIn!.id }));
      return;
    case 'restoreHandIn':
      for (const { id, removedAtMs } of tab.handIns)
        if (removedAtMs !== null) await tried(running.dispatch({ kind: 'restoreHandIn', handInId: id }));
      return;
    case 'crash':
      return tab.crash();
    case 'closeTab':
      return tab.close();
    case 'openTab':
      if (device.tabs.length < 3) await device.open();
      return;
    case 'clock':
      device.clockSkewMs = random.whole(-40, 40) * DAY_MS;
      return;
    case 'pull':
      await tried(running.pull());
      return;
    case 'retry':
      await tried(running.retry());
  }
}

async function add(
  tab: Tab,
  random: Random,
  photos: readonly Uint8Array[],
  handIn: HandIn,
  promised: Promised,
): Promise<void> {
  const { intake, documents } = tab.running;
  const before = new Set(handIn.pages.map(({ id }) => id));
  const photo = random.pick(photos);
  await intake.take(
    handIn.id,
    [new File([photo as Uint8Array<ArrayBuffer>], `photo ${before.size}.jpg`, { type: 'image/jpeg' })],
    { evenTwice: true, kind: random.chance(0.3) ? 'spread' : 'sheet' },
  );
  if (intake.state.getState().items.some(({ state }) => state === 'failed')) {
    for (const { id } of intake.state.getState().items) intake.dismiss(id);
    return;
  }
  // taken in without a complaint: from now on it may not be lost
  for (const { id } of documents.state.getState().handIns[handIn.id]?.pages ?? [])
    if (!before.has(id) && id.startsWith(`id-${tab.device.name}`)) promised.pages.get(handIn.id)?.add(id);
}

async function settled(devices: readonly Device[], server: TestServer, promised: Promised): Promise<string | null> {
  for (const device of devices) if (device.tabs.length === 0) await device.open();
  const tabs = devices.flatMap((device) => device.tabs);
  const isIdle = (tab: Tab): boolean => {
    const { waiting, refused } = tab.running.sending.getState();
    return (
      waiting === 0 &&
      refused.length === 0 &&
      tab.handIns.every(
        ({ pages, removedAtMs }) =>
          removedAtMs !== null ||
          pages.every((page) => page.removedAtMs !== null || page.recipe.outline.by !== 'pending'),
      )
    );
  };
  const views = async (): Promise<HandIn[][]> => {
    for (const tab of tabs) await tab.running.pull();
    return [...tabs.map((tab) => [...tab.handIns]), await handInsOn(server, devices[0]!)];
  };
  let atServer: readonly HandIn[] = [];
  const began = Date.now();
  let disagreement: string | null = 'not settled';
  while (Date.now() - began < SETTLE_MS) {
    for (const tab of tabs) await tab.running.retry();
    await pause(10);
    if (!tabs.every(isIdle)) {
      disagreement = `still waiting: ${tabs.map((tab) => describeSending(tab)).join(' / ')}`;
      continue;
    }
    // a connection to the server of before its last restart may still break
    const seen = await views().catch((error: unknown) => String(error));
    disagreement = typeof seen === 'string' ? seen : disagreementOf(seen);
    if (disagreement !== null || typeof seen === 'string') continue;
    atServer = seen.at(-1)!;
    break;
  }
  return disagreement ?? lostOrDoubled(atServer, promised);
}

async function handInsOn(server: TestServer, device: Device): Promise<HandIn[]> {
  const response = await fetch(`${server.url}/api/changes?since=0`, { headers: { 'x-fotoplan-device': device.key } });
  return ((await response.json()) as { handIns: HandIn[] }).handIns;
}

const sorted = (handIns: readonly HandIn[]): HandIn[] => [...handIns].sort((a, b) => (a.id < b.id ? -1 : 1));

function disagreementOf(views: readonly (readonly HandIn[])[]): string | null {
  const plain = (view: readonly HandIn[]): HandIn[] => JSON.parse(JSON.stringify(sorted(view))) as HandIn[];
  const server = plain(views.at(-1)!);
  for (const [n, view] of views.slice(0, -1).entries()) {
    const own = plain(view);
    if (isDeepStrictEqual(own, server)) continue;
    const differing = own.find((handIn, i) => !isDeepStrictEqual(handIn, server[i]));
    return `tab ${n} and the server disagree in ${firstDifference(own, server)}: ${describe(differing)} / ${describe(server.find(({ id }) => id === differing?.id))} (${own.length} and ${server.length} hand-ins)`;
  }
  return null;
}
function describeSending(tab: Tab): string {
  const { waiting, held, connection, problem, refused } = tab.running.sending.getState();
  return `${waiting} waiting, ${held} held, ${connection}, ${problem?.code ?? 'no problem'}, refused ${JSON.stringify(refused.map(({ item }) => [item.kind === 'operation' ? item.operation.kind : item.kind, item.refused]))}`;
}

/** The first thing that differs, by its path. */
function firstDifference(a: unknown, b: unknown, at = ''): string {
  if (typeof a !== 'object' || typeof b !== 'object' || a === null || b === null)
    return `${at}: ${JSON.stringify(a)} / ${JSON.stringify(b)}`;
  for (const name of new Set([...Object.keys(a), ...Object.keys(b)])) {
    const [own, other] = [(a as Record<string, unknown>)[name], (b as Record<string, unknown>)[name]];
    if (!isDeepStrictEqual(own, other)) return firstDifference(own, other, `${at}.${name}`);
  }
  return at;
}
const describe = (handIn: HandIn | undefined): string =>
  handIn === undefined
    ? 'none'
    : `${handIn.id} ${handIn.removedAtMs} [${handIn.pages.map(({ id, removedAtMs, leftOut, recipe }: Page) => `${id}${removedAtMs === null ? '' : '-'}${leftOut ? 'o' : ''}${recipe.quarterTurns}${recipe.outline.by[0]}`).join(' ')}]`;

function lostOrDoubled(handIns: readonly HandIn[], { pages, gone }: Promised): string | null {
  for (const [handInId, ids] of pages) {
    const handIn = handIns.find(({ id }) => id === handInId);
    if (handIn === undefined) return `hand-in ${handInId} is lost`;
    for (const id of ids) {
      const count = handIn.pages.filter((page) => page.id === id).length;
      if (count > 1) return `page ${id} is doubled`;
      if (count === 0 && !gone.has(id)) return `page ${id} of ${handInId} is lost`;
    }
    const shown = shownPages(handIn).map(({ id }) => id);
    if (new Set(shown).size !== shown.length) return `a page of ${handInId} is doubled`;
  }
  return null;
}

async function until(isSo: () => boolean): Promise<void> {
  for (let n = 0; n < 2000; n++) {
    if (isSo()) return;
    await pause(2);
  }
  throw new Error('waited too long');
}
