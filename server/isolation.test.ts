import {
  newHandIn,
  newPage,
  samplePhoto,
  sendOperations,
  sendOriginal,
  sha256,
  startTestServer,
  type Browser,
  type TestServer,
} from './testServer';

interface Layer {
  readonly route?: { readonly path: string; readonly methods: Readonly<Record<string, boolean>> };
  readonly handle?: { readonly stack?: readonly Layer[] };
}

/** Every address of a router that names a thing, read off the router itself: one that is added is covered by itself. */
function routesOf(stack: readonly Layer[]): { readonly method: string; readonly path: string }[] {
  return stack.flatMap(({ route, handle }) => {
    if (route !== undefined)
      return Object.keys(route.methods).map((method) => ({ method: method.toUpperCase(), path: route.path }));
    return handle?.stack === undefined ? [] : routesOf(handle.stack);
  });
}

let server: TestServer;
let mira: Browser;
let other: Browser;
let photoId: string;
beforeAll(async () => {
  server = await startTestServer();
  mira = server.browser();
  other = server.browser();
  const photo = await samplePhoto(77);
  photoId = sha256(photo);
  await sendOriginal(mira, photo);
  await sendOperations(mira, newHandIn('hand-in-1'), newPage('hand-in-1', 'page-one', photoId));
  const pdf = Buffer.from('%PDF-1.7 one');
  await mira(`/api/hand-ins/hand-in-1/bound-files/file-0001?name=a.pdf&pages=1&sha256=${sha256(pdf)}`, {
    method: 'PUT',
    body: new Blob([pdf]),
  });
  await mira(`/api/originals/${photoId}/pictures/0/thumbnail`, {
    method: 'PUT',
    body: new Blob([new Uint8Array(await samplePhoto(78, 100))]),
  });
  await mira(`/api/originals/${'d'.repeat(64)}/parts/0`, { method: 'PUT', body: 'a part' });
  await other('/api/changes?since=0');
});
afterAll(() => server.close());

const filled = async (path: string): Promise<string> => {
  const { screens } = (await (await mira('/api/screens')).json()) as { screens: { id: string }[] };
  return path
    .replace(':handInId', 'hand-in-1')
    .replace(':sha256', photoId)
    .replace(':page', '0')
    .replace(':size', 'thumbnail')
    .replace(':screenId', screens[0]!.id)
    .replace(':id', 'file-0001')
    .replace(':seq', '0');
};

describe('with another owner’s session', () => {
  it('every address that names a thing answers as if it did not exist', async () => {
    const { stack } = server.app.router as unknown as { readonly stack: readonly Layer[] };
    const api = stack.find(({ handle }) => routesOf(handle?.stack ?? []).some(({ path }) => path === '/changes'))!;
    const named = routesOf(api.handle!.stack!).filter(({ path }) => path.includes(':'));
    expect(named.length).toBeGreaterThanOrEqual(8);
    for (const { method, path } of named) {
      const at = `/api${await filled(path)}`;
      // its owner's own parts and photos are made by sending them: whoever sends gets a thing of their own
      if (method === 'PUT' && path.startsWith('/originals')) continue;
      const bound =
        path.includes('bound-files') && method === 'PUT'
          ? `?name=a.pdf&pages=1&sha256=${sha256(Buffer.from('%PDF-x'))}`
          : '';
      const response = await other(`${at}${bound}`, { method, ...(method === 'PUT' ? { body: '%PDF-x' } : {}) });
      if (path.endsWith('/parts')) expect([path, await response.json()]).toEqual([path, { parts: [] }]);
      else if (path.endsWith('/done')) expect([path, response.status]).toEqual([path, 422]);
      else expect([method, path, response.status]).toEqual([method, path, 404]);
    }
  });

  it('lists hold nothing of it, and operations change nothing of it', async () => {
    expect(await (await other('/api/changes?since=0')).json()).toMatchObject({ handIns: [], gone: [], boundFiles: [] });
    expect(await (await other('/api/profile')).json()).toEqual({ profile: null });
    expect(await (await other('/api/recovery-code')).json()).toEqual({ madeAtMs: null });
    const asked = await other('/api/originals', {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ ids: [photoId] }),
    });
    expect(await asked.json()).toEqual({ have: [] });
    const { screens } = (await (await other('/api/screens')).json()) as { screens: unknown[] };
    expect(screens).toHaveLength(1);
    const change = {
      id: 'operation-of-other',
      handInId: 'hand-in-1',
      atMs: 9,
      kind: 'changeHandIn',
      title: 'Mine now',
    };
    expect((await sendOperations(other, change)).status).toBe(404);
    expect((await sendOperations(other, newHandIn('hand-in-1'))).status).toBe(404);
    // a page may not show a photo that its owner never sent
    expect(
      (await sendOperations(other, newHandIn('hand-in-2'), newPage('hand-in-2', 'page-one', photoId))).status,
    ).toBe(409);
    expect(await (await mira('/api/hand-ins/hand-in-1')).json()).toMatchObject({ title: 'Set 4' });
  });
});

describe('a link on another site', () => {
  const owners = (): number => server.db.prepare<[], { n: number }>('SELECT count(*) AS n FROM owner').get()!.n;

  it.each<[string, Record<string, string>]>([
    ['as browsers tell it', { 'sec-fetch-mode': 'navigate', 'sec-fetch-site': 'cross-site' }],
    ['typed by a person', { 'sec-fetch-mode': 'navigate', 'sec-fetch-site': 'none' }],
    ['from a neighbour', { 'sec-fetch-mode': 'no-cors', 'sec-fetch-site': 'same-site' }],
    ['as a browser follows it that does not tell', { accept: 'text/html,application/xhtml+xml' }],
  ])('makes no owner, and puts no other cookie in place of the one that is there: %s', async (_name, headers) => {
    const before = owners();
    for (const path of ['/api/profile', '/api/changes?since=0', '/api/events', `/api/originals/${photoId}`]) {
      const response = await fetch(`${server.url}${path}`, { headers });
      expect([path, response.status, response.headers.getSetCookie()]).toEqual([path, 401, []]);
    }
    expect(owners()).toBe(before);
    // who is known may open a file of their own by its address
    expect(
      (
        await mira('/api/bound-files/file-0001', {
          headers: { 'sec-fetch-mode': 'navigate', 'sec-fetch-site': 'none', accept: 'text/html' },
        })
      ).status,
    ).toBe(200);
  });
});
