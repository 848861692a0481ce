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

let server: TestServer;
let mira: Browser;
const json = (method: string, body: string): RequestInit => ({
  method,
  headers: { 'content-type': 'application/json' },
  body,
});
const count = (table: string, of = server): number =>
  (of.db.prepare(`SELECT count(*) AS n FROM ${table}`).get() as { n: number }).n;

describe('input that no device of ours sends', () => {
  beforeAll(async () => {
    server = await startTestServer();
    mira = server.browser();
    await sendOperations(mira, newHandIn('hand-in-1'));
  });
  afterAll(() => server.close());
  const deep = (depth: number): string => '{"a":'.repeat(depth) + '1' + '}'.repeat(depth);
  const operation = (changes: string): string =>
    `{"operations":[{"id":"operation-x","handInId":"hand-in-9","kind":"createHandIn","title":"Set 4","paper":"auto",${changes}}]}`;
  const profile = (changes: string): string =>
    `{"first":"","family":"","number":"","paper":"auto","name":null,${changes}}`;

  it.each([
    ...['1e19', '1e20', '1e308', '9223372036854775807', '9223372036854775808', '-1', '1.5'].map((atMs) => [
      `the time ${atMs}`,
      '/api/operations',
      'POST',
      operation(`"atMs":${atMs}`),
    ]),
    ['a deep operation', '/api/operations', 'POST', operation(`"atMs":1,"binding":${deep(4000)}`)],
    ['a deep profile', '/api/profile', 'PUT', profile(`"courseNames":${deep(4000)}`)],
    ['a deep code', '/api/link', 'POST', `{"code":${deep(4000)}}`],
    ['a course called constructor', '/api/profile', 'PUT', profile('"courseNames":{"constructor":{"name":"x"}}')],
    ['a prototype', '/api/profile', 'PUT', profile('"courseNames":{"__proto__":{"pieces":[]}}')],
    [
      'a version that cannot be compared',
      '/api/operations',
      'POST',
      '{"operations":[{"kind":"addPage","id":"operation-x","handInId":"hand-in-1","atMs":1,"recipe":{"version":{"toString":null}}}]}',
    ],
    ['a pattern that is none', '/api/profile', 'PUT', profile('"courseNames":{"TTS":{"pieces":"all"}}')],
    [
      'many courses',
      '/api/profile',
      'PUT',
      profile(
        `"courseNames":{${Array.from({ length: 201 }, (_, n) => `"C${n}":{"pieces":[],"separator":"_"}`).join(',')}}`,
      ),
    ],
  ])('%s is refused', async (_what, path, method, body) => {
    const answer = await mira(path, json(method, body));
    expect([answer.status, await answer.json()]).toEqual([400, expect.objectContaining({ code: 'BODY_INVALID' })]);
  });

  it('more points than a page can hold are refused before any is looked at', async () => {
    const photo = await samplePhoto(30);
    await sendOriginal(mira, photo);
    const page = newPage('hand-in-1', 'page-one', sha256(photo));
    const mark = {
      kind: 'pen',
      colour: '#1d2733',
      width: 0.01,
      points: Array.from({ length: 2000 }, (_, n) => ({ x: n / 2000, y: n / 2000 })),
    };
    const withMarks = (n: number) => ({
      ...page,
      recipe: {
        ...(page as { recipe: object }).recipe,
        marks: Array.from({ length: n }, (_, k) => ({ ...mark, id: `mark-${1000 + k}` })),
      },
    });
    const tooMany = await sendOperations(mira, withMarks(20));
    expect([tooMany.status, await tooMany.json()]).toEqual([
      400,
      {
        code: 'BODY_INVALID',
        message: expect.stringMatching(/at most 100000 values/) as string,
        facts: { operationId: (page as { id: string }).id },
      },
    ]);
    expect((await sendOperations(mira, withMarks(10))).status).toBe(200);
  });

  it('a hand-in holds 2,000 pages, and a batch reads and writes it once', async () => {
    const photo = await samplePhoto(40);
    await sendOriginal(mira, photo);
    await sendOperations(mira, newHandIn('hand-in-2'));
    const pages = Array.from({ length: 2001 }, (_, n) => newPage('hand-in-2', `page-${10_000 + n}`, sha256(photo)));
    for (let n = 0; n < 2000; n += 200)
      expect((await sendOperations(mira, ...pages.slice(n, n + 200))).status).toBe(200);
    const refused = await sendOperations(mira, pages[2000]);
    expect([refused.status, await refused.json()]).toMatchObject([
      400,
      { message: expect.stringMatching(/2000 pages at most/) as string },
    ]);
    const read = (await (await mira('/api/hand-ins/hand-in-2')).json()) as { pages: { id: string }[] };
    expect(read.pages.map(({ id }) => id)).toEqual(
      pages.slice(0, 2000).map((page) => (page as { pageId: string }).pageId),
    );
  });
});

describe('whoever only looks', () => {
  beforeEach(async () => {
    server = await startTestServer({ config: { DEMO: false, NEWCOMERS_A_MINUTE: 3 } });
    mira = server.browser();
  });
  afterEach(() => server.close());

  it('leaves nothing here, and is the same person when something is kept', async () => {
    const first = (await (await mira('/api/changes?since=0')).json()) as { owner: string };
    for (const path of ['/api/profile', '/api/screens', '/api/recovery-code'])
      expect((await mira(path)).status).toBe(200);
    expect([count('owner'), count('screen')]).toEqual([0, 0]);
    await sendOperations(mira, newHandIn('hand-in-1'));
    expect([count('owner'), count('screen')]).toEqual([1, 1]);
    expect(await (await mira('/api/changes?since=0')).json()).toMatchObject({
      owner: first.owner,
      handIns: [{ id: 'hand-in-1' }],
    });
  });

  it('does not get somebody else’s place by a cookie that was planted', async () => {
    const planted = 'p'.repeat(43);
    const answer = await fetch(`${server.url}/api/changes?since=0`, {
      headers: { cookie: `fotoplan_owner=${planted}` },
    });
    expect(answer.headers.get('set-cookie')).not.toContain(planted);
  });

  it('is counted by address until something is kept', async () => {
    const statuses: number[] = [];
    for (let n = 0; n < 35; n++) statuses.push((await server.browser()('/api/profile')).status);
    expect(statuses.filter((status) => status === 429)).toHaveLength(5);
    expect((await mira('/api/profile')).status).toBe(429);
  });

  it('cannot become many people a minute', async () => {
    const statuses: number[] = [];
    for (let n = 0; n < 5; n++)
      statuses.push((await sendOperations(server.browser(), newHandIn(`hand-in-${n}`))).status);
    expect(statuses).toEqual([200, 200, 200, 429, 429]);
    expect(count('owner')).toBe(3);
  });
});

describe('the quota', () => {
  it('counts photos, parts and bound files together', async () => {
    server = await startTestServer({ config: { QUOTA_MB: 1.2 } });
    mira = server.browser();
    await sendOperations(mira, newHandIn('hand-in-1'));
    const part = Buffer.alloc(500_000);
    for (const seq of [0, 1])
      expect((await mira(`/api/originals/${'a'.repeat(64)}/parts/${seq}`, { method: 'PUT', body: part })).status).toBe(
        204,
      );
    expect((await mira(`/api/originals/${'b'.repeat(64)}/parts/0`, { method: 'PUT', body: part })).status).toBe(413);
    const pdf = Buffer.concat([Buffer.from('%PDF-1.7\n'), part]);
    const bind = (id: string): Promise<Response> =>
      mira(`/api/hand-ins/hand-in-1/bound-files/${id}?name=a.pdf&pages=1&sha256=${sha256(pdf)}`, {
        method: 'PUT',
        body: pdf,
      });
    const full = await bind('file-0001');
    expect([full.status, await full.json()]).toMatchObject([413, { code: 'QUOTA_FULL' }]);
    server.bytesFile.exec('DELETE FROM upload_part');
    expect((await bind('file-0001')).status).toBe(201);
    expect((await bind('file-0002')).status).toBe(201);
    expect((await bind('file-0003')).status).toBe(413);
    // nothing is left of what was refused
    expect(server.bytesFile.prepare('SELECT count(*) AS n FROM upload_part').get()).toEqual({ n: 0 });
    await server.close();
  });
});

it('a photo that comes while its owner is linked to another ends up with the other', async () => {
  let checked = (): void => undefined;
  const held = new Promise<void>((resolve) => (checked = resolve));
  let asked = (): void => undefined;
  const isAsked = new Promise<void>((resolve) => (asked = resolve));
  const facts = { type: 'image/jpeg', width: 300, height: 424 } as const;
  server = await startTestServer({
    fileChecks: {
      photo: async () => {
        asked();
        await held;
        return facts as never;
      },
      pdfPages: () => Promise.resolve(1),
    },
  });
  const [from, to] = [server.browser(), server.browser()];
  await sendOperations(from, newHandIn('hand-in-1'));
  await sendOperations(to, newHandIn('hand-in-2'));
  const photo = await samplePhoto(50);
  const sending = sendOriginal(from, photo);
  await isAsked;
  const { code } = (await (await to('/api/link-codes', { method: 'POST' })).json()) as { code: string };
  expect((await from('/api/link', json('POST', JSON.stringify({ code })))).status).toBe(200);
  checked();
  expect((await sending).status).toBe(201);
  expect((await to(`/api/originals/${sha256(photo)}`)).status).toBe(200);
  await server.close();
});

it('behind a proxy with TLS cookies are Secure, people are told apart by their own address, and our pages’ address is the public one', async () => {
  server = await startTestServer({
    config: { DEMO: false, PUBLIC_URL: 'https://fotoplan.skerry.example', TRUST_PROXY: 1, NEWCOMERS_A_MINUTE: 1 },
  });
  const through = (address: string, path = '/api/profile', init: RequestInit = {}): Promise<Response> =>
    fetch(`${server.url}${path}`, {
      ...init,
      headers: {
        ...(init.headers as Record<string, string>),
        'x-forwarded-for': address,
        'x-forwarded-proto': 'https',
      },
    });
  const answer = await through('192.0.2.1');
  expect(answer.headers.get('set-cookie')).toMatch(/; Secure/);
  expect(answer.headers.get('strict-transport-security')).toMatch(/max-age=\d+/);
  for (let n = 0; n < 10; n++) await through('192.0.2.1');
  expect((await through('192.0.2.1')).status).toBe(429);
  expect((await through('192.0.2.2')).status).toBe(200);
  const post = (origin: string): Promise<Response> =>
    through('192.0.2.3', '/api/operations', {
      ...json('POST', JSON.stringify({ operations: [newHandIn(`hand-in-${origin.length}`)] })),
      headers: { 'content-type': 'application/json', origin },
    });
  expect((await post('https://fotoplan.skerry.example')).status).toBe(200);
  expect((await post('https://evil.example')).status).toBe(400);
  await server.close();
});

it('what is somebody’s own is kept in no cache; photos are asked for each time', async () => {
  server = await startTestServer();
  mira = server.browser();
  const photo = await samplePhoto(60);
  await sendOriginal(mira, photo);
  for (const path of ['/api/changes?since=0', '/api/profile', '/api/screens'])
    expect((await mira(path)).headers.get('cache-control')).toBe('private, no-store');
  const got = await mira(`/api/originals/${sha256(photo)}`);
  expect(got.headers.get('cache-control')).toBe('private, no-cache');
  expect(
    (
      await mira(`/api/originals/${sha256(photo)}`, {
        headers: { 'if-none-match': got.headers.get('etag')!, 'cache-control': 'max-age=0' },
      })
    ).status,
  ).toBe(304);
  expect(
    (
      await server.browser()(`/api/originals/${sha256(photo)}`, {
        headers: { 'if-none-match': got.headers.get('etag')! },
      })
    ).status,
  ).toBe(404);
  await server.close();
});
