import sharp from 'sharp';
import 'fake-indexeddb/auto';
import { setTimeout as pause } from 'node:timers/promises';
import { openDB } from 'idb';
import { FotoplanError } from '../../core/errors';
import { boundPages, shownPages, type HandIn } from '../../core/work/hand-in/handIn';
import { wholePhotoRecipe } from '../../core/work/recipe/plainRecipe';
import { createRandom } from '../../demo/random';
import { storageError } from '../../platform/browser/keptBytes/storageError';
import { samplePhoto, sha256, startTestServer, type TestServer } from '../../server/testServer';
import { openLocalDatabase } from '../../src/data/localDatabase';
import { Device, type Tab } from './device';
import type { FaultyNetwork } from './faultyNetwork';

/* The engine beside the real server, one thing going wrong at a time. */

const ours = (status: number, code: string): Response =>
  new Response(JSON.stringify({ code, message: `The server says ${code}.` }), {
    status,
    headers: { 'content-type': 'application/json' },
  });
const proxyPage = (status: number): Response =>
  new Response('<html>No.</html>', { status, headers: { 'content-type': 'text/html' } });

let server: TestServer;
let lastDevice = 0;
/** What is answered in the server's place; null lets the request through. */
let instead: (path: string, method: string) => Response | null | 'noAnswer' = () => null;
const asked: string[] = [];
const network: FaultyNetwork = {
  stormy: false,
  fetch: (address, init) => {
    const path = address as string;
    const method = init?.method ?? 'GET';
    asked.push(`${method} ${path}`);
    const answer = instead(path, method);
    if (answer === 'noAnswer') return Promise.reject(new TypeError('failed'));
    return answer === null ? fetch(`${server.url}${path}`, init) : Promise.resolve(answer);
  },
};
const newDevice = (): Device =>
  new Device(`device-${++lastDevice}`, network, () => server.url, createRandom(lastDevice));
const open: Tab[] = [];
async function openTab(device = newDevice()): Promise<Tab> {
  const tab = await device.open();
  open.push(tab);
  await until(() => tab.running.documents.state.getState().loading === 'ready');
  return tab;
}

beforeEach(async () => {
  instead = () => null;
  asked.length = 0;
  server = await startTestServer({ config: { REQUESTS_A_MINUTE: 1e9, DEMO: false } });
});
afterEach(async () => {
  instead = () => null;
  for (const tab of open.splice(0)) await tab.close();
  await server.close();
});

async function until(isSo: () => boolean | Promise<boolean>): Promise<void> {
  for (let n = 0; n < 1500; n++) {
    if (await isSo()) return;
    await pause(2);
  }
  throw new Error('waited too long');
}
const sent = (tab: Tab): Promise<void> =>
  until(() => tab.running.sending.getState().waiting === 0 && tab.running.sending.getState().refused.length === 0);
const sending = (tab: Tab) => tab.running.sending.getState();
const handInOn = (tab: Tab, id = 'hand-in-1'): HandIn | undefined => tab.running.documents.state.getState().handIns[id];
const letters = (tab: Tab): string =>
  shownPages(handInOn(tab)!)
    .map(({ fileName }) => fileName.replace('.jpg', ''))
    .join('');
async function onServer(tab: Tab): Promise<string> {
  const { handIns } = await tab.running.api.changes(0);
  return handIns
    .flatMap((handIn) => boundPages(handIn))
    .map(({ fileName }) => fileName.replace('.jpg', ''))
    .join('');
}
const create = (tab: Tab, id = 'hand-in-1') =>
  tab.running.dispatch({
    kind: 'createHandIn',
    handInId: id,
    title: 'Set 4',
    paper: 'auto',
    binding: {},
    assignmentId: null,
  });
const photoFile = async (letter: string): Promise<File> =>
  new File([(await samplePhoto(letter.charCodeAt(0))) as Uint8Array<ArrayBuffer>], `${letter}.jpg`, {
    type: 'image/jpeg',
  });
const take = async (tab: Tab, ...names: readonly string[]): Promise<void> =>
  tab.running.intake.take('hand-in-1', await Promise.all(names.map(photoFile)));
const turn = (tab: Tab, n: number) =>
  tab.running.dispatch({
    kind: 'turnPages',
    handInId: 'hand-in-1',
    pageIds: [shownPages(handInOn(tab)!)[n]!.id],
    turns: 1,
  });
async function reloaded(tab: Tab): Promise<Tab> {
  tab.crash();
  open.splice(open.indexOf(tab), 1);
  return openTab(tab.device);
}

describe('what the server does not take', () => {
  it.each<[string, (path: string) => Response | null | 'noAnswer', 'refused' | 'waiting']>([
    ['429 on photos', (path) => (path.startsWith('/api/originals/') ? ours(429, 'TOO_MANY_TRIES') : null), 'waiting'],
    ['413 on photos', (path) => (path.startsWith('/api/originals/') ? ours(413, 'QUOTA_FULL') : null), 'refused'],
    ['a proxy’s 403 on photos', (path) => (path.startsWith('/api/originals/') ? proxyPage(403) : null), 'waiting'],
    ['400 on photos', (path) => (path.startsWith('/api/originals/') ? ours(400, 'PHOTO_CUT_SHORT') : null), 'refused'],
    ['429 on operations', (path) => (path === '/api/operations' ? ours(429, 'TOO_MANY_TRIES') : null), 'waiting'],
    ['413 on operations', (path) => (path === '/api/operations' ? ours(413, 'BODY_INVALID') : null), 'refused'],
    ['a proxy’s 403 on operations', (path) => (path === '/api/operations' ? proxyPage(403) : null), 'waiting'],
    ['400 on operations', (path) => (path === '/api/operations' ? ours(400, 'BODY_INVALID') : null), 'refused'],
    ['a login page', () => proxyPage(200), 'waiting'],
    ['no connection', () => 'noAnswer', 'waiting'],
  ])('stays over a reload and goes up when it is tried again: %s', async (_name, answer, state) => {
    let tab = await openTab();
    await create(tab);
    await take(tab, 'a');
    await sent(tab);
    instead = (path, method) => (method === 'GET' ? null : answer(path));
    await take(tab, 'b', 'c', 'd');
    await until(() =>
      state === 'refused'
        ? sending(tab).refused.length > 0
        : sending(tab).problem !== null || sending(tab).connection === 'down',
    );
    expect(letters(tab)).toBe('abcd');
    expect(sending(tab).waiting! + sending(tab).refused.length).toBeGreaterThanOrEqual(3);
    tab = await reloaded(tab);
    await tab.running.pull();
    expect(letters(tab)).toBe('abcd');
    expect(await onServer(tab)).toBe('a');
    await until(() => sending(tab).waiting !== null && sending(tab).waiting! + sending(tab).refused.length >= 3);
    instead = () => null;
    await tab.running.retry();
    await sent(tab);
    expect(await onServer(tab)).toBe('abcd');
    expect(letters(tab)).toBe('abcd');
  });

  it('holds back only what depends on it', async () => {
    const tab = await openTab();
    await create(tab);
    await take(tab, 'a', 'b');
    await sent(tab);
    const refusedId = shownPages(handInOn(tab)!)[0]!.id;
    const { api } = tab.running;
    const real = api.sendOperations.bind(api);
    Object.assign(api, {
      sendOperations: (operations: Parameters<typeof real>[0]) => {
        const bad = operations.find((operation) => 'pageId' in operation && operation.pageId === refusedId);
        return bad === undefined
          ? real(operations)
          : Promise.reject(new FotoplanError('BODY_INVALID', 'No.', { status: 400, operationId: bad.id }));
      },
    });
    await turn(tab, 0);
    await turn(tab, 0);
    await turn(tab, 1);
    await until(() => sending(tab).refused.length === 1 && sending(tab).held === 1);
    await until(async () => (await api.handIn('hand-in-1')).pages[1]!.recipe.quarterTurns === 1);
    expect((await api.handIn('hand-in-1')).pages[0]!.recipe.quarterTurns).toBe(0);
    // here everything stays as it was wanted
    expect(handInOn(tab)!.pages.map(({ recipe }) => recipe.quarterTurns)).toEqual([2, 1]);
  });

  it('can be discarded: then what the server has is shown, and the rest goes on', async () => {
    const tab = await openTab();
    await create(tab);
    await take(tab, 'a');
    await sent(tab);
    instead = (path, method) => (method === 'PUT' && path.includes('/originals/') ? ours(413, 'QUOTA_FULL') : null);
    await take(tab, 'b');
    await turn(tab, 1);
    await until(() => sending(tab).refused.length === 1);
    await tab.running.discard(sending(tab).refused[0]!.key);
    await sent(tab);
    expect(letters(tab)).toBe('a');
    await tab.running.pull();
    expect(letters(tab)).toBe('a');
  });

  it('is found by itself where the server does not say which of many it was', async () => {
    const tab = await openTab();
    await create(tab);
    await take(tab, 'a', 'b');
    await sent(tab);
    instead = (path) => (path === '/api/operations' ? proxyPage(502) : null);
    for (const title of ['B', 'C'])
      await tab.running.dispatch({ kind: 'changeHandIn', handInId: 'hand-in-1', title, label: { key: 'name' } });
    await turn(tab, 0);
    await turn(tab, 1);
    let batches = 0;
    instead = (path) => (path === '/api/operations' && batches++ === 0 ? ours(400, 'BODY_INVALID') : null);
    await tab.running.retry();
    await sent(tab);
    expect((await tab.running.api.handIn('hand-in-1')).title).toBe('C');
    expect(batches).toBeGreaterThanOrEqual(5);
  });

  it('goes up in batches where all is well', async () => {
    const tab = await openTab();
    instead = (path) => (path === '/api/operations' ? proxyPage(502) : null);
    await create(tab);
    for (let n = 0; n < 250; n++)
      await tab.running.dispatch({
        kind: 'changeHandIn',
        handInId: 'hand-in-1',
        title: `Set ${n}`,
        label: { key: 'name' },
      });
    asked.length = 0;
    instead = () => null;
    await tab.running.retry();
    await sent(tab);
    expect(asked.filter((each) => each === 'POST /api/operations').length).toBeLessThanOrEqual(4);
    expect((await tab.running.api.handIn('hand-in-1')).title).toBe('Set 249');
  });

  it('is sent once more where the server has lost the photo', async () => {
    const tab = await openTab();
    await create(tab);
    await take(tab, 'a');
    await sent(tab);
    server.db.exec('PRAGMA foreign_keys = OFF; DELETE FROM original; PRAGMA foreign_keys = ON');
    await tab.running.dispatch({
      kind: 'duplicatePages',
      handInId: 'hand-in-1',
      pageIds: [shownPages(handInOn(tab)!)[0]!.id],
    });
    await sent(tab);
    expect(await onServer(tab)).toBe('aa');
  });
});

describe('a server that was set back', () => {
  it('gets again what it has lost, hand-ins and single pages, and nothing is lost here', async () => {
    let tab = await openTab();
    await create(tab);
    await take(tab, 'a', 'b');
    await sent(tab);
    await create(tab, 'hand-in-2');
    await sent(tab);
    await tab.running.pull();
    server.db
      .exec(`PRAGMA foreign_keys = OFF; DELETE FROM hand_in WHERE id = 'hand-in-2'; DELETE FROM change; DELETE FROM page WHERE file_name = 'b.jpg'; DELETE FROM original; DELETE FROM applied_operation;
      UPDATE owner SET last_seq = 1; INSERT INTO change SELECT owner_id, 'handIn', id, 1 FROM hand_in; PRAGMA foreign_keys = ON`);
    tab = await reloaded(tab);
    await sent(tab);
    expect(letters(tab)).toBe('ab');
    const { handIns } = await tab.running.api.changes(0);
    expect(handIns.map(({ id }) => id).sort()).toEqual(['hand-in-1', 'hand-in-2']);
    expect(await onServer(tab)).toBe('ab');
  });
});

describe('two tabs', () => {
  it('show the same and merge their undo steps', async () => {
    const device = newDevice();
    const first = await openTab(device);
    const second = await openTab(device);
    await create(first);
    await take(first, 'a', 'b', 'c');
    await until(() => handInOn(second)?.pages.length === 3);
    await turn(first, 0);
    await turn(second, 1);
    await until(() => handInOn(first)!.pages[1]!.recipe.quarterTurns === 1);
    expect(
      first.running.documents.histories
        .getState()
        .histories['hand-in-1']!.done.slice(-2)
        .map(({ label }) => label.key),
    ).toEqual(['rotate', 'rotate']);
    await first.running.documents.undo('hand-in-1');
    expect(handInOn(first)!.pages.map(({ recipe }) => recipe.quarterTurns)).toEqual([1, 0, 0]);
    await second.running.documents.undo('hand-in-1');
    await until(() => handInOn(first)!.pages[0]!.recipe.quarterTurns === 0);
    await sent(first);
    await sent(second);
  });
});

describe('two tabs, while one of them keeps a photo', () => {
  it('sweep nothing that is about to be a page, and what a crash left is swept later', async () => {
    const tab = await openTab();
    await create(tab);
    const { device } = tab;
    let goOn = (): void => undefined;
    const halted = new Promise<void>((resolve) => (goOn = resolve));
    const put = device.bytes.put.bind(device.bytes);
    device.bytes.put = async (name, blob) => {
      await put(name, blob);
      await halted;
    };
    const taken = take(tab, 'a');
    await until(async () => (await device.bytes.list()).length === 1);
    const other = await openTab(device);
    await other.running.loaded;
    await pause(20);
    expect(await device.bytes.list()).toHaveLength(1);
    goOn();
    await taken;
    await sent(tab);
    expect(await device.bytes.list()).toHaveLength(1);
    await put('original-left', new Blob(['left by a crash']));
    await openTab(device);
    await until(async () => (await device.bytes.list()).length === 1);
    expect(await onServer(tab)).toBe('a');
  });
});

describe('this device', () => {
  it('that cannot be opened at first can be tried again', async () => {
    const device = newDevice();
    let failing = true;
    const spy = jest.spyOn(indexedDB, 'open').mockImplementation(((name: string, version: number) => {
      if (failing) throw new DOMException('not now', 'UnknownError');
      spy.mockRestore();
      return indexedDB.open(name, version);
    }) as typeof indexedDB.open);
    await expect(device.open()).rejects.toMatchObject({ code: 'STORAGE_FAILED' });
    failing = false;
    const tab = await openTab(device);
    await create(tab);
    expect(handInOn(tab)).toBeDefined();
  });

  it('brings photos that an earlier version kept as blobs to where they are kept now, and loses no page', async () => {
    const device = newDevice();
    const photo = await samplePhoto(99);
    const id = sha256(photo);
    const name = `histories ${device.name}`;
    const old = await openDB(name, 5, {
      upgrade(db) {
        for (const store of ['handIns', 'originals']) db.createObjectStore(store, { keyPath: 'id' });
        db.createObjectStore('boundFiles', { keyPath: 'handInId' });
        db.createObjectStore('outbox', { autoIncrement: true });
        db.createObjectStore('verdicts', { keyPath: 'pageId' });
        for (const store of ['device', 'seen', 'profile']) db.createObjectStore(store);
        db.createObjectStore('histories', { keyPath: 'handInId' });
        db.createObjectStore('readings', { keyPath: 'key' });
      },
    });
    await old.put('originals', { id, fileName: 'a.jpg', blob: new Blob([photo as Uint8Array<ArrayBuffer>]) });
    await old.put('handIns', {
      id: 'hand-in-1',
      title: 'Set 3',
      paper: 'auto',
      createdAtMs: 1,
      changedAtMs: 2,
      removed: false,
      pages: [
        {
          id: 'page-one',
          originalId: id,
          fileName: 'a.jpg',
          width: 300,
          height: 424,
          recipe: wholePhotoRecipe(300, 424, 'daylight'),
          removed: false,
        },
      ],
    });
    await old.put('histories', {
      handInId: 'hand-in-1',
      done: [{ label: 'the turn', forward: [], inverse: [] }],
      undone: [],
    });
    old.close();
    const tab = await openTab(device);
    expect(letters(tab)).toBe('a');
    await sent(tab);
    expect(await onServer(tab)).toBe('a');
    await until(async () => (await tab.running.db.get('originals', id))?.blob === undefined);
    expect((await device.bytes.get(`original-${id}`))!.size).toBe(photo.length);
  });

  it('makes an older tab let go when a newer version is opened in another', async () => {
    const outdated = jest.fn();
    const db = await openLocalDatabase(
      { onBlocked: () => undefined, onOutdated: outdated, onLost: () => undefined },
      'histories versions',
    );
    const newer = await openDB('histories versions', 99);
    expect(outdated).toHaveBeenCalled();
    newer.close();
    db.close();
  });

  it('that is full says so, keeps what it has, and goes on once there is room', async () => {
    const tab = await openTab();
    await create(tab);
    await take(tab, 'a');
    const put = jest
      .spyOn(tab.device.bytes, 'put')
      .mockRejectedValue(storageError(new DOMException('no room', 'QuotaExceededError')));
    await take(tab, 'b');
    expect(letters(tab)).toBe('a');
    expect(tab.running.intake.state.getState().items).toMatchObject([
      { state: 'failed', problem: expect.objectContaining({ code: 'STORAGE_FULL' }) as object },
    ]);
    put.mockRestore();
    await take(tab, 'b');
    expect(letters(tab)).toBe('ab');
    await sent(tab);
  });

  it('drops photos that the server has, and fetches one again when it is needed', async () => {
    const tab = await openTab();
    await create(tab);
    await take(tab, 'a');
    await sent(tab);
    instead = (path) => (path.startsWith('/api/operations') ? proxyPage(502) : null);
    const [{ originalId }] = shownPages(handInOn(tab)!) as [HandIn['pages'][number]];
    expect(await tab.running.freeable()).toBeGreaterThan(1000);
    expect(await tab.running.freeSpace()).toBeGreaterThan(1000);
    expect(await tab.running.originals.local(originalId)).toBeNull();
    expect((await tab.running.originals.load(originalId, 'a.jpg')).size).toBeGreaterThan(1000);
    expect(await tab.running.originals.local(originalId)).not.toBeNull();
  });
});

describe('files that are taken in', () => {
  it('keep their order by number, behind the page asked for; one that is there already is pointed out', async () => {
    const tab = await openTab();
    await create(tab);
    const numbered = async (...names: readonly string[]): Promise<File[]> =>
      Promise.all(
        names.map(
          async (name, i) =>
            new File([(await samplePhoto(120 + 9 * i + names.length)) as Uint8Array<ArrayBuffer>], name),
        ),
      );
    await tab.running.intake.take('hand-in-1', await numbered('first.jpg', 'last.jpg'));
    await tab.running.intake.take('hand-in-1', await numbered('p10.jpg', 'p9.jpg', 'p2.jpg'), {
      afterPageId: handInOn(tab)!.pages[0]!.id,
    });
    expect(letters(tab)).toBe('firstp2p9p10last');
    await tab.running.intake.take('hand-in-1', await numbered('p10.jpg', 'p9.jpg', 'p2.jpg'));
    expect(handInOn(tab)!.pages).toHaveLength(5);
    const [note] = tab.running.intake.state.getState().items;
    expect(note).toMatchObject({ state: 'noted' });
    note!.offer!.act();
    await until(() => handInOn(tab)!.pages.length === 6);
  });

  it('that say they were taken in another order are laid in that order only when asked for, and among themselves', async () => {
    const tab = await openTab();
    await create(tab);
    const taken = async (name: string, time: string): Promise<File> =>
      new File(
        [
          Uint8Array.from(
            await sharp(await samplePhoto(name.charCodeAt(0)))
              .withExif({ IFD2: { DateTimeOriginal: `2026:11:30 ${time}` } })
              .jpeg()
              .toBuffer(),
          ),
        ],
        `${name}.jpg`,
      );
    const notes = () => tab.running.intake.state.getState().items;
    await tab.running.intake.take('hand-in-1', [await taken('a', '09:00:00'), await taken('b', '09:00:05')]);
    expect(notes()).toEqual([]);
    await tab.running.intake.take('hand-in-1', [
      await taken('e', '08:30:00'),
      await taken('c', '08:10:00'),
      await taken('d', '08:20:00'),
    ]);
    expect(letters(tab)).toBe('abecd');
    expect(notes()).toMatchObject([
      { state: 'noted', problem: { code: 'PHOTOS_OUT_OF_ORDER', facts: { name: 'c.jpg' } } },
    ]);
    notes()[0]!.offer!.act();
    await until(() => letters(tab) === 'abcde');
    expect(notes()).toEqual([]);
    await tab.running.documents.undo('hand-in-1');
    expect(letters(tab)).toBe('abecd');
    // one that does not tell leaves the order to the person
    await tab.running.intake.take('hand-in-1', [await taken('g', '08:30:00'), await photoFile('f')]);
    expect(notes()).toEqual([]);
  });
});

describe('a linked screen', () => {
  it('leaves the finding to the device that took the photo', async () => {
    const phone = await openTab();
    const laptop = await openTab();
    await laptop.running.api.link((await phone.running.api.linkCode()).code);
    await laptop.running.startOver();
    await create(phone);
    asked.length = 0;
    await take(phone, 'a');
    await sent(phone);
    await until(() => handInOn(laptop)?.pages[0]?.recipe.outline.by === 'found');
    expect(asked.filter((each) => /^GET \/api\/originals\/[0-9a-f]{64}$/.test(each))).toEqual([]);
  });

  it('takes over where that device is gone for good', async () => {
    const phone = await openTab();
    const laptop = await openTab();
    await laptop.running.api.link((await phone.running.api.linkCode()).code);
    await laptop.running.startOver();
    await create(phone);
    jest.spyOn(phone.running.scheduler, 'run').mockImplementation((request: { kind: string }) =>
      request.kind === 'check'
        ? Promise.resolve({
            originalId: sha256(pending),
            isPdf: false,
            pages: [{ width: 300, height: 424 }],
            takenAtMs: null,
            forbids: [],
          })
        : Promise.reject(new FotoplanError('WORKER_LOST', 'out of memory')),
    );
    const pending = await samplePhoto(77);
    await phone.running.intake.take('hand-in-1', [new File([pending as Uint8Array<ArrayBuffer>], 'a.jpg')]);
    await until(() => handInOn(laptop)?.pages[0]?.recipe.outline.by === 'found');
  });
});

describe('a linked device that is unlinked', () => {
  it('lets go of what is not its own, with what it still wanted to change there, and has its own again', async () => {
    const mine = await openTab();
    await create(mine);
    await take(mine, 'a');
    await sent(mine);
    const theirs = await openTab();
    await create(theirs, 'hand-in-9');
    await sent(theirs);
    const { code } = await theirs.running.api.linkCode();
    await mine.running.api.link(code);
    await mine.running.startOver();
    expect(handInOn(mine, 'hand-in-9')).toBeDefined();
    instead = (path, method) => (method === 'POST' && path === '/api/operations' ? 'noAnswer' : null);
    await mine.running.dispatch({ kind: 'deleteHandIn', handInId: 'hand-in-9' });
    await turn(mine, 0);
    const joined = (await theirs.running.api.screens()).find(({ cameAlong }) => cameAlong)!;
    await theirs.running.api.cutOff(joined.id);
    await mine.running.pull();
    expect([handInOn(mine, 'hand-in-9'), letters(mine), mine.running.device.getState().left]).toEqual([
      undefined,
      'a',
      true,
    ]);
    instead = () => null;
    await mine.running.retry();
    await sent(mine);
    // its own change went up, and nothing of theirs came with it
    const { handIns } = await mine.running.api.changes(0);
    expect(handIns.map(({ id, pages }) => [id, pages[0]!.recipe.quarterTurns])).toEqual([['hand-in-1', 1]]);
    await theirs.running.pull();
    expect([handInOn(theirs)?.id, handInOn(theirs, 'hand-in-9')?.removedAtMs]).toEqual([undefined, null]);
  });
});
