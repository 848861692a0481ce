import type { AppliedView, ChangesView } from '../contract/views';
import {
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

const changesSince = async (since: number, browser = mira): Promise<ChangesView> =>
  (await (await browser(`/api/changes?since=${since}`)).json()) as ChangesView;
const stamp = (n: number, handInId = 'hand-in-1'): { id: string; handInId: string; atMs: number } => ({
  id: `operation-of-${n}`,
  handInId,
  atMs: n,
});
const codeOf = async (response: Response): Promise<[number, string]> => [
  response.status,
  ((await response.json()) as { code: string }).code,
];

async function withPages(...pageIds: readonly string[]): Promise<string> {
  const photo = await samplePhoto(60);
  await sendOriginal(mira, photo);
  await sendOperations(mira, newHandIn('hand-in-1'), ...pageIds.map((id) => newPage('hand-in-1', id, sha256(photo))));
  return sha256(photo);
}

describe('what has changed', () => {
  it('is told from a number on, each thing once, as it is now', async () => {
    await withPages('page-one');
    const all = await changesSince(0);
    expect(all).toMatchObject({ handIns: [{ id: 'hand-in-1' }], gone: [], boundFiles: [], more: false });
    expect(await changesSince(all.upTo)).toMatchObject({ handIns: [], upTo: all.upTo });
    for (const n of [1, 2, 3]) await sendOperations(mira, { ...stamp(n), kind: 'changeHandIn', title: `Set ${n}` });
    await sendOperations(mira, newHandIn('hand-in-2'));
    const news = await changesSince(all.upTo);
    expect(news.handIns.map(({ id, title }) => [id, title])).toEqual([
      ['hand-in-1', 'Set 3'],
      ['hand-in-2', 'Set 4'],
    ]);
    const pdf = Buffer.from('%PDF-1.7 one');
    await mira(`/api/hand-ins/hand-in-2/bound-files/file-0001?name=a.pdf&pages=1&sha256=${sha256(pdf)}`, {
      method: 'PUT',
      body: new Blob([pdf]),
    });
    expect(await changesSince(news.upTo)).toMatchObject({ handIns: [], boundFiles: ['hand-in-2'] });
  });

  it('comes in several answers where it is much', async () => {
    for (let n = 0; n < 130; n++)
      await sendOperations(mira, { ...stamp(n, `hand-in-${n}`), kind: 'createHandIn', title: 'Set', paper: 'auto' });
    const first = await changesSince(0);
    expect([first.handIns.length, first.more]).toEqual([100, true]);
    const rest = await changesSince(first.upTo);
    expect([rest.handIns.length, rest.more]).toEqual([30, false]);
  });

  it('is all told to who knows a number that was never given out, as after the server was set back', async () => {
    await withPages('page-one');
    const { upTo } = await changesSince(0);
    expect(await changesSince(upTo + 100)).toMatchObject({ handIns: [{ id: 'hand-in-1' }], upTo });
  });

  it.each(['', '?since=-1', '?since=1.5', '?since=x', '?since=1e400', '?since=1&since=2'])(
    'is refused where it is asked for by no number: %s',
    async (query) => {
      const [status, code] = await codeOf(await mira(`/api/changes${query}`));
      expect([status, code]).toEqual([400, 'BODY_INVALID']);
    },
  );

  it('is numbered in the answer to operations, which says what came before and whether some was there already', async () => {
    const send = async (...operations: readonly unknown[]): Promise<AppliedView> =>
      (await (await sendOperations(mira, ...operations)).json()) as AppliedView;
    const made = newHandIn('hand-in-1');
    expect(await send(made)).toEqual({ seqBefore: 0, seq: 1, repeated: false });
    expect(await send({ ...stamp(2), kind: 'changeHandIn', title: 'B' })).toEqual({
      seqBefore: 1,
      seq: 2,
      repeated: false,
    });
    expect(await send(made)).toMatchObject({ seqBefore: 2, repeated: true });
  });

  it('names the operation that was refused among many', async () => {
    const bad = { ...stamp(5), kind: 'changeHandIn', title: '' };
    const answer = (await (
      await sendOperations(mira, newHandIn('hand-in-1'), { ...stamp(4), kind: 'changeHandIn', title: 'B' }, bad)
    ).json()) as { facts: unknown };
    expect(answer.facts).toEqual({ operationId: 'operation-of-5' });
    const missing = newPage('hand-in-1', 'page-one', 'a'.repeat(64));
    expect(await (await sendOperations(mira, newHandIn('hand-in-1'), missing)).json()).toMatchObject({
      code: 'ORIGINAL_MISSING',
      facts: { operationId: missing.id },
    });
  });
});

describe('deleting', () => {
  it('keeps a page to be restored, until it is deleted for good; then nothing brings it back', async () => {
    const photoId = await withPages('page-one', 'page-two');
    await sendOperations(mira, { ...stamp(7), kind: 'removePage', pageId: 'page-one' });
    expect((await changesSince(0)).handIns[0]!.pages.map(({ removedAtMs }) => removedAtMs)).toEqual([7, null]);
    await sendOperations(mira, { ...stamp(8), kind: 'restorePage', pageId: 'page-one' });
    expect((await changesSince(0)).handIns[0]!.pages.map(({ removedAtMs }) => removedAtMs)).toEqual([null, null]);
    await sendOperations(mira, { ...stamp(9), kind: 'deletePage', pageId: 'page-one' });
    expect((await changesSince(0)).handIns[0]).toMatchObject({
      pages: [{ id: 'page-two' }],
      deletedPageIds: ['page-one'],
    });
    // what another screen did to it comes late
    expect(
      (
        await sendOperations(
          mira,
          { ...newPage('hand-in-1', 'page-one', photoId), id: 'operation-late' },
          { ...stamp(10), kind: 'restorePage', pageId: 'page-one' },
        )
      ).status,
    ).toBe(200);
    expect((await changesSince(0)).handIns[0]!.pages.map(({ id }) => id)).toEqual(['page-two']);
  });

  it('of a hand-in for good takes its pages and files along, and is told to other screens', async () => {
    await withPages('page-one');
    const pdf = Buffer.from('%PDF-1.7 one');
    await mira(`/api/hand-ins/hand-in-1/bound-files/file-0001?name=a.pdf&pages=1&sha256=${sha256(pdf)}`, {
      method: 'PUT',
      body: new Blob([pdf]),
    });
    const { upTo } = await changesSince(0);
    await sendOperations(mira, { ...stamp(20), kind: 'deleteHandIn' });
    expect(await changesSince(upTo)).toMatchObject({ handIns: [], gone: ['hand-in-1'] });
    expect((await mira('/api/bound-files/file-0001')).status).toBe(404);
    expect((await sendOperations(mira, { ...stamp(21), kind: 'changeHandIn', title: 'Late' })).status).toBe(200);
    expect((await mira('/api/hand-ins/hand-in-1')).status).toBe(404);
    // only its owner could
    await sendOperations(mira, { ...newHandIn('hand-in-2'), id: 'operation-again' });
    expect(
      await codeOf(await sendOperations(server.browser(), { ...stamp(22, 'hand-in-2'), kind: 'deleteHandIn' })),
    ).toEqual([404, 'NOT_FOUND']);
  });

  it('makes room in the quota at once', async () => {
    const photo = await samplePhoto(61);
    await server.close();
    server = await startTestServer({ config: { QUOTA_MB: (1.5 * photo.length) / 1e6 } });
    mira = server.browser();
    await sendOriginal(mira, photo);
    await sendOperations(mira, newHandIn('hand-in-1'), newPage('hand-in-1', 'page-one', sha256(photo)));
    const second = await samplePhoto(62);
    expect(await codeOf(await sendOriginal(mira, second))).toEqual([413, 'QUOTA_FULL']);
    await sendOperations(mira, { ...stamp(30), kind: 'deletePage', pageId: 'page-one' });
    expect((await sendOriginal(mira, second)).status).toBe(201);
  });
});

describe('small pictures of an original', () => {
  const put = (size: string, bytes: Uint8Array, id: string, browser = mira): Promise<Response> =>
    browser(`/api/originals/${id}/pictures/0/${size}`, {
      method: 'PUT',
      body: new Blob([bytes as Uint8Array<ArrayBuffer>]),
    });

  it('come before the original and are given back, to their owner only', async () => {
    const thumbnail = await samplePhoto(70, 200);
    const id = sha256(await samplePhoto(71));
    expect((await put('thumbnail', thumbnail, id)).status).toBe(204);
    const back = await mira(`/api/originals/${id}/pictures/0/thumbnail`);
    expect(Buffer.from(await back.arrayBuffer()).equals(thumbnail)).toBe(true);
    expect((await server.browser()(`/api/originals/${id}/pictures/0/thumbnail`)).status).toBe(404);
    expect((await mira(`/api/originals/${id}/pictures/0/preview`)).status).toBe(404);
  });

  it('are refused where they are none', async () => {
    const id = 'e'.repeat(64);
    expect(await codeOf(await put('thumbnail', await samplePhoto(72, 800), id))).toEqual([400, 'BODY_INVALID']);
    expect(await codeOf(await put('thumbnail', Buffer.from('no picture'), id))).toEqual([400, 'PHOTO_NOT_A_PHOTO']);
    expect(await codeOf(await put('poster', await samplePhoto(73, 100), id))).toEqual([404, 'NOT_FOUND']);
    expect(await codeOf(await put('thumbnail', Buffer.alloc(100_001), id))).toEqual([413, 'PHOTO_TOO_LARGE']);
    expect(await codeOf(await mira(`/api/originals/${id}/pictures/-1/thumbnail`))).toEqual([404, 'NOT_FOUND']);
  });
});

describe('asking which originals are here', () => {
  it('answers with those of this owner', async () => {
    const photo = await samplePhoto(80);
    await sendOriginal(mira, photo);
    const ask = (ids: unknown, browser = mira): Promise<Response> =>
      browser('/api/originals', {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ ids }),
      });
    expect(await (await ask([sha256(photo), 'a'.repeat(64)])).json()).toEqual({ have: [sha256(photo)] });
    expect(await (await ask([sha256(photo)], server.browser())).json()).toEqual({ have: [] });
    expect(await codeOf(await ask(['../x']))).toEqual([400, 'BODY_INVALID']);
  });
});

it('findings on a shot are kept with its page, and go with its photo', async () => {
  const photoId = await withPages('page-one');
  await sendOperations(mira, {
    ...stamp(40),
    kind: 'noteFindings',
    pageId: 'page-one',
    originalId: photoId,
    findings: ['glare'],
  });
  expect((await changesSince(0)).handIns[0]!.pages[0]!.findings).toEqual(['glare']);
  const other = await samplePhoto(81);
  await sendOriginal(mira, other);
  await sendOperations(mira, {
    ...newPage('hand-in-1', 'page-one', sha256(other)),
    kind: 'replaceOriginal',
    id: 'operation-retake',
    atMs: NOW_MS,
  });
  expect((await changesSince(0)).handIns[0]!.pages[0]!.findings).toBeNull();
  // they speak of the photo of before
  await sendOperations(mira, {
    ...stamp(41),
    kind: 'noteFindings',
    pageId: 'page-one',
    originalId: photoId,
    findings: ['dark'],
  });
  expect((await changesSince(0)).handIns[0]!.pages[0]!.findings).toBeNull();
});
