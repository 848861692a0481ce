import type { Recipe } from '../core/work/recipe/recipe';
import type { HandIn } from '../core/work/hand-in/handIn';
import {
  movedToFront,
  newHandIn,
  newPage,
  NOW_MS,
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

beforeEach(async () => {
  server = await startTestServer();
  mira = server.browser();
});
afterEach(() => server.close());

const codeOf = async (response: Response): Promise<[number, string]> => [
  response.status,
  ((await response.json()) as { code: string }).code,
];
const handInOf = async (browser: Browser, id: string): Promise<HandIn> =>
  (await (await browser(`/api/hand-ins/${id}`)).json()) as HandIn;

describe('originals', () => {
  it('come back byte for byte, under their hash, with their type', async () => {
    const photo = await samplePhoto(200);
    expect((await sendOriginal(mira, photo)).status).toBe(201);
    const back = await mira(`/api/originals/${sha256(photo)}`);
    expect(back.headers.get('content-type')).toBe('image/jpeg');
    expect(Buffer.from(await back.arrayBuffer()).equals(photo)).toBe(true);
  });

  it('may be sent twice', async () => {
    const photo = await samplePhoto(201);
    await sendOriginal(mira, photo);
    expect((await sendOriginal(mira, photo)).status).toBe(201);
  });

  it('larger than a chunk are kept whole', async () => {
    const photo = await samplePhoto(202);
    const padded = Buffer.concat([photo, Buffer.alloc(2_500_000, 7)]); // phones append data after the picture
    await sendOriginal(mira, padded);
    const back = Buffer.from(await (await mira(`/api/originals/${sha256(padded)}`)).arrayBuffer());
    expect(back.equals(padded)).toBe(true);
  });

  it('that changed on the way, are no photo or break off are refused by content', async () => {
    const photo = await samplePhoto(203);
    expect(await codeOf(await sendOriginal(mira, photo, 'f'.repeat(64)))).toEqual([422, 'HASH_MISMATCH']);
    expect(await codeOf(await sendOriginal(mira, Buffer.from('a letter')))).toEqual([400, 'PHOTO_NOT_A_PHOTO']);
    expect(await codeOf(await sendOriginal(mira, photo.subarray(0, 60)))).toEqual([400, 'PHOTO_CUT_SHORT']);
    expect(await codeOf(await sendOriginal(mira, Buffer.alloc(0)))).toEqual([400, 'PHOTO_EMPTY']);
    expect(await codeOf(await sendOriginal(mira, Buffer.alloc(40_000_001)))).toEqual([413, 'PHOTO_TOO_LARGE']);
    expect(server.db.prepare('SELECT count(*) AS n FROM blob').get()).toEqual({ n: 0 });
  });
});

describe('operations', () => {
  it('build a hand-in that another request sees', async () => {
    const photos = await Promise.all([samplePhoto(10), samplePhoto(20)]);
    for (const photo of photos) await sendOriginal(mira, photo);
    await sendOperations(
      mira,
      newHandIn('hand-in-1'),
      newPage('hand-in-1', 'page-one', sha256(photos[0])),
      newPage('hand-in-1', 'page-two', sha256(photos[1])),
      movedToFront('hand-in-1', 'page-two'),
    );
    const handIn = await handInOf(mira, 'hand-in-1');
    expect(handIn.pages.map((page) => page.id)).toEqual(['page-two', 'page-one']);
    expect(handIn).toMatchObject({ title: 'Set 4', paper: 'auto', createdAtMs: NOW_MS });
  });

  it('count once when they arrive twice', async () => {
    const photo = await samplePhoto(30);
    await sendOriginal(mira, photo);
    const operations = [newHandIn('hand-in-1'), newPage('hand-in-1', 'page-one', sha256(photo))];
    await sendOperations(mira, ...operations);
    expect((await sendOperations(mira, ...operations)).status).toBe(200);
    expect((await handInOf(mira, 'hand-in-1')).pages).toHaveLength(1);
  });

  it('are all applied or none: one bad one leaves nothing behind, and can be sent again', async () => {
    const photo = await samplePhoto(40);
    const page = newPage('hand-in-1', 'page-one', sha256(photo));
    expect(await codeOf(await sendOperations(mira, newHandIn('hand-in-1'), page))).toEqual([409, 'ORIGINAL_MISSING']);
    expect((await mira('/api/hand-ins/hand-in-1')).status).toBe(404);
    await sendOriginal(mira, photo);
    expect((await sendOperations(mira, newHandIn('hand-in-1'), page)).status).toBe(200);
  });

  const good = newPage('hand-in-1', 'page-one', 'a'.repeat(64));
  const recipeIn = (page: unknown): Recipe => (page as { recipe: Recipe }).recipe;
  const withRecipe = (page: object, changed: object): object => ({
    ...page,
    recipe: { ...recipeIn(page), ...changed },
  });
  const bad: [string, unknown, string][] = [
    ['an unknown kind', { ...good, kind: 'explode' }, 'kind must be one of'],
    ['a kind from Object’s own names', { ...good, kind: 'constructor' }, 'kind must be one of'],
    ['no recipe', { ...good, recipe: undefined }, 'recipe'],
    ['a field nobody knows', { ...good, admin: true }, 'admin'],
    ['a hash that is none', { ...good, originalId: '../../x' }, 'SHA-256'],
    [
      'three corners',
      {
        ...good,
        recipe: {
          ...(good as { recipe: object }).recipe,
          outline: { corners: [{ x: 1, y: 2 }], by: 'hand', confidence: 1 },
        },
      },
      'corners',
    ],
    [
      'a bend that is too far',
      withRecipe(good, {
        outline: {
          ...recipeIn(good).outline,
          bends: [
            [0, 2, 0],
            [0, 0, 0],
            [0, 0, 0],
            [0, 0, 0],
          ],
        },
      }),
      'bends',
    ],
    ['proportions of no sheet', withRecipe(good, { sheet: 'napkin' }), 'sheet'],
    ['a doubt that is no chance', withRecipe(good, { uprightConfidence: 7 }), 'uprightConfidence'],
    ['a text where a number belongs', { ...newHandIn('hand-in-1'), atMs: 'now' }, 'atMs'],
    ['null', null, 'kind must be one of'],
    ['light out of bounds', withRecipe(good, { light: { ...recipeIn(good).light, contrast: 4 } }), 'contrast'],
    ['no light', withRecipe(good, { light: undefined }), 'light'],
    ['a mend without points', withRecipe(good, { mends: [{ points: [], radius: 4 }] }), 'points'],
    [
      'more mends than anybody paints',
      withRecipe(good, { mends: Array.from({ length: 401 }, () => ({ points: [{ x: 1, y: 1 }], radius: 4 })) }),
      'mends',
    ],
    [
      'an order that names no pages',
      { id: 'operation-order', handInId: 'hand-in-1', atMs: 3, kind: 'orderPages', pageIds: ['<script>'] },
      'pageIds',
    ],
    [
      'leaving out without saying which way',
      { id: 'operation-out', handInId: 'hand-in-1', atMs: 3, kind: 'leaveOut', pageId: 'page-one' },
      'leftOut',
    ],
  ];
  it('are refused where today’s recipe lacks what earlier ones did not have', async () => {
    expect(
      await codeOf(
        await sendOperations(mira, withRecipe(good, { outline: { ...recipeIn(good).outline, bends: undefined } })),
      ),
    ).toEqual([400, 'RECIPE_INVALID']);
  });

  it('keep what is left out, the order, the light and the mends for the next request', async () => {
    const photo = await samplePhoto(47);
    await sendOriginal(mira, photo);
    const pages = ['page-one', 'page-two', 'page-three'].map((id) => newPage('hand-in-5', id, sha256(photo)));
    const stamp = { handInId: 'hand-in-5', atMs: 9 };
    const light = { ...recipeIn(pages[0]!).light, contrast: 0.4, fadeRules: true };
    const mends = [{ points: [{ x: 10, y: 12 }], radius: 6 }];
    const changes = [
      { ...stamp, id: 'operation-order', kind: 'orderPages', pageIds: ['page-three', 'page-one', 'page-two'] },
      { ...stamp, id: 'operation-out', kind: 'leaveOut', pageId: 'page-one', leftOut: true },
      {
        ...stamp,
        id: 'operation-light',
        kind: 'setRecipe',
        pageId: 'page-two',
        recipe: { ...recipeIn(pages[1]!), finish: 'pencil', light, mends },
      },
    ];
    expect((await sendOperations(mira, newHandIn('hand-in-5'), ...pages, ...changes)).status).toBe(200);
    const { handIns } = (await (await mira('/api/changes?since=0')).json()) as {
      handIns: {
        id: string;
        pages: { id: string; leftOut: boolean; recipe: { finish: string; light: object; mends: object } }[];
      }[];
    };
    const kept = handIns.find(({ id }) => id === 'hand-in-5')!.pages;
    expect(kept.map(({ id, leftOut }) => [id, leftOut])).toEqual([
      ['page-three', false],
      ['page-one', true],
      ['page-two', false],
    ]);
    expect(kept[2]!.recipe).toMatchObject({ finish: 'pencil', light, mends });
  });

  it('are refused where a side is bent further than a sheet can be laid flat', async () => {
    const photo = await samplePhoto(46);
    await sendOriginal(mira, photo);
    const page = newPage('hand-in-1', 'page-bent', sha256(photo));
    const bent = withRecipe(page, {
      outline: {
        ...recipeIn(page).outline,
        bends: [
          [0, 0.5, 0],
          [0, 0, 0],
          [0, 0, 0],
          [0, 0, 0],
        ],
      },
    });
    expect(await codeOf(await sendOperations(mira, newHandIn('hand-in-1'), bent))).toEqual([400, 'RECIPE_INVALID']);
  });

  it.each(bad)('are refused with a code and a sentence: %s', async (_name, operation, words) => {
    const response = await sendOperations(mira, operation);
    const body = (await response.json()) as { code: string; message: string };
    expect([response.status, body.code]).toEqual([400, 'BODY_INVALID']);
    expect(body.message).toContain(words);
    expect(Object.keys(body).slice(0, 2)).toEqual(['code', 'message']);
  });

  it('with an outline that cannot be used are refused with the reason', async () => {
    const photo = await samplePhoto(50);
    await sendOriginal(mira, photo);
    const page = newPage('hand-in-1', 'page-one', sha256(photo));
    const crossed = [
      { x: 0, y: 0 },
      { x: 300, y: 424 },
      { x: 300, y: 0 },
      { x: 0, y: 424 },
    ];
    const recipe = {
      ...(page as unknown as { recipe: object }).recipe,
      outline: { corners: crossed, by: 'hand', confidence: 1 },
    };
    expect(await codeOf(await sendOperations(mira, newHandIn('hand-in-1'), { ...page, recipe }))).toEqual([
      400,
      'RECIPE_INVALID',
    ]);
  });
});

describe('owners', () => {
  it('never see, change or take over each other’s work', async () => {
    const photo = await samplePhoto(60);
    await sendOriginal(mira, photo);
    await sendOperations(mira, newHandIn('hand-in-1'), newPage('hand-in-1', 'page-one', sha256(photo)));
    const stranger = server.browser();
    expect(await (await stranger('/api/changes?since=0')).json()).toMatchObject({ handIns: [] });
    expect(await codeOf(await stranger('/api/hand-ins/hand-in-1'))).toEqual([404, 'NOT_FOUND']);
    expect(await codeOf(await stranger(`/api/originals/${sha256(photo)}`))).toEqual([404, 'NOT_FOUND']);
    expect(await codeOf(await sendOperations(stranger, newHandIn('hand-in-1')))).toEqual([404, 'NOT_FOUND']);
    expect(await codeOf(await sendOperations(stranger, movedToFront('hand-in-1', 'page-one')))).toEqual([
      404,
      'NOT_FOUND',
    ]);
    // knowing the hash of a photo does not give it: the page is refused until its bytes were sent
    await sendOperations(stranger, newHandIn('hand-in-2'));
    expect(await codeOf(await sendOperations(stranger, newPage('hand-in-2', 'page-one', sha256(photo))))).toEqual([
      409,
      'ORIGINAL_MISSING',
    ]);
    expect((await handInOf(mira, 'hand-in-1')).pages).toHaveLength(1);
  });

  it('are known again by their device’s key when the cookie was lost, and not by a stranger’s', async () => {
    const key = 'k'.repeat(43);
    const first = server.browser();
    const made = {
      id: 'operation-d1',
      kind: 'createHandIn',
      handInId: 'hand-in-d1',
      atMs: 1,
      title: 'Set 4',
      paper: 'auto',
    };
    const post = {
      method: 'POST',
      headers: { 'content-type': 'application/json', 'x-fotoplan-device': key },
      body: JSON.stringify({ operations: [made] }),
    };
    expect((await first('/api/operations', post)).status).toBe(200);
    const seen = async (headers: Record<string, string>): Promise<number> =>
      (await server.browser()('/api/hand-ins/hand-in-d1', { headers })).status;
    expect(await seen({ 'x-fotoplan-device': key })).toBe(200);
    expect(await seen({ 'x-fotoplan-device': 'x'.repeat(43) })).toBe(404);
    expect(await seen({ 'x-fotoplan-device': 'short' })).toBe(404);
    expect(await seen({})).toBe(404);
  });

  it('are told apart by a cookie that scripts cannot read; only its hash is stored', async () => {
    const response = await server.browser()('/api/changes?since=0');
    const [cookie] = response.headers.getSetCookie();
    expect(cookie).toMatch(/HttpOnly/);
    expect(cookie).toMatch(/SameSite=Strict/);
    const token = /fotoplan_owner=([^;]+)/.exec(cookie!)![1]!;
    expect(JSON.stringify(server.db.prepare('SELECT * FROM owner').all())).not.toContain(token);
  });
});

describe('bound files', () => {
  const pdf = Buffer.from('%PDF-1.7 a file\n%%EOF');
  const put = (
    browser: Browser,
    bytes: Buffer,
    query = `name=Set%204.pdf&pages=2&sha256=${sha256(bytes)}`,
  ): Promise<Response> =>
    browser(`/api/hand-ins/hand-in-1/bound-files/file-0001?${query}`, {
      method: 'PUT',
      body: new Blob([bytes as Uint8Array<ArrayBuffer>]),
    });

  it('are kept with the hand-in and come back whole, with their name', async () => {
    await sendOperations(mira, newHandIn('hand-in-1'));
    expect((await put(mira, pdf)).status).toBe(201);
    const list = (await (await mira('/api/hand-ins/hand-in-1/bound-files')).json()) as { files: unknown[] };
    expect(list.files).toEqual([
      {
        id: 'file-0001',
        name: 'Set 4.pdf',
        pages: 2,
        bytes: pdf.length,
        sha256: sha256(pdf),
        boundAtMs: NOW_MS,
        facts: {},
      },
    ]);
    const back = await mira('/api/bound-files/file-0001');
    expect(back.headers.get('content-disposition')).toContain('Set 4.pdf');
    expect(Buffer.from(await back.arrayBuffer()).equals(pdf)).toBe(true);
    expect((await server.browser()('/api/bound-files/file-0001')).status).toBe(404);
  });

  it('must be PDFs, whole, and belong to a hand-in that is here', async () => {
    expect(await codeOf(await put(mira, pdf))).toEqual([404, 'NOT_FOUND']);
    await sendOperations(mira, newHandIn('hand-in-1'));
    expect(await codeOf(await put(mira, Buffer.from('no pdf')))).toEqual([400, 'BODY_INVALID']);
    expect(await codeOf(await put(mira, pdf, `name=a.pdf&pages=0&sha256=${sha256(pdf)}`))).toEqual([
      400,
      'BODY_INVALID',
    ]);
    expect(await codeOf(await put(mira, pdf, `name=a.pdf&pages=1&sha256=${'0'.repeat(64)}`))).toEqual([
      422,
      'HASH_MISMATCH',
    ]);
  });
});

describe('every failure', () => {
  it.each([
    ['GET', '/api/nothing', undefined, 404],
    ['POST', '/api/operations', '{"operations":', 400],
    ['POST', '/api/operations', '{}', 400],
    ['POST', '/api/operations', `{"operations":[${'{},'.repeat(300)}{}]}`, 400],
    ['POST', '/api/operations', `{"x":"${'y'.repeat(2_100_000)}"}`, 413],
  ])('answers %s %s with a code and a message, never a stack', async (method, path, body, status) => {
    const response = await mira(path, {
      method,
      headers: { 'content-type': 'application/json' },
      ...(body === undefined ? {} : { body }),
    });
    const answer = (await response.json()) as Record<string, string>;
    expect(response.status).toBe(status);
    expect(Object.keys(answer)).toEqual(['code', 'message']);
    expect(JSON.stringify(answer)).not.toMatch(/\bat .*\.(ts|js)/);
  });

  it('a fault of our own is answered with 500 and an apology, and its details stay here', async () => {
    server.db.pragma('foreign_keys = OFF');
    server.db.exec('ALTER TABLE page RENAME TO lost');
    await sendOperations(mira, newHandIn('hand-in-1'));
    expect(await codeOf(await mira('/api/changes?since=0'))).toEqual([500, 'INTERNAL']);
  });
});
