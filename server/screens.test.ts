import type { ChangesView, LinkCodeView, ScreenView } from '../contract/views';
import type { HandIn } from '../core/work/hand-in/handIn';
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
let phone: Browser;
let laptop: Browser;

beforeEach(async () => {
  server = await startTestServer();
  phone = server.browser();
  laptop = server.browser();
});
afterEach(() => server.close());

const post = (browser: Browser, path: string, body: unknown = {}): Promise<Response> =>
  browser(path, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) });
const codeFrom = async (browser: Browser): Promise<string> =>
  ((await (await post(browser, '/api/link-codes')).json()) as LinkCodeView).code;
const idsOf = async (browser: Browser): Promise<string[]> =>
  ((await (await browser('/api/changes?since=0')).json()) as { handIns: HandIn[] }).handIns.map(({ id }) => id).sort();
const screensOf = async (browser: Browser): Promise<ScreenView[]> =>
  ((await (await browser('/api/screens')).json()) as { screens: ScreenView[] }).screens;

/** Events as they come, until the line is cut. */
async function listen(browser: Browser): Promise<{ readonly events: unknown[]; readonly closed: Promise<void> }> {
  const response = await browser('/api/events');
  const events: unknown[] = [];
  const closed = (async () => {
    const reader = response.body!.pipeThrough(new TextDecoderStream()).getReader();
    for (let { done, value } = await reader.read(); !done; { done, value } = await reader.read()) {
      for (const line of value!.split('\n')) if (line.startsWith('data: ')) events.push(JSON.parse(line.slice(6)));
    }
  })();
  return { events, closed };
}
const settle = (): Promise<void> => new Promise((resolve) => setTimeout(resolve, 60));

async function withPage(browser: Browser, handInId: string, shade: number): Promise<void> {
  const photo = await samplePhoto(shade);
  await sendOriginal(browser, photo);
  expect(
    (await sendOperations(browser, newHandIn(handInId), newPage(handInId, `page-of-${handInId}`, sha256(photo))))
      .status,
  ).toBe(200);
}

const giveName = (browser: Browser, first: string): Promise<Response> =>
  browser('/api/profile', {
    method: 'PUT',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ first, family: 'Test', number: '', paper: 'auto', name: null, courseNames: {} }),
  });
const whole = async (browser: Browser): Promise<ChangesView> =>
  (await (await browser('/api/changes?since=0')).json()) as ChangesView;
/** One ends the link of another, or of itself. */
async function unlink(by: Browser, whom: Browser): Promise<Response> {
  const { id } = (await screensOf(whom)).find(({ thisOne }) => thisOne)!;
  return by(`/api/screens/${id}`, { method: 'DELETE' });
}

describe('linking a screen', () => {
  it('brings both screens’ work together, and keeps what the second had', async () => {
    await withPage(phone, 'from-phone', 10);
    await withPage(laptop, 'from-laptop', 20);
    expect((await post(laptop, '/api/link', { code: (await codeFrom(phone)).toLowerCase() })).status).toBe(200);
    expect(await idsOf(phone)).toEqual(['from-laptop', 'from-phone']);
    expect(await idsOf(laptop)).toEqual(['from-laptop', 'from-phone']);
    const page = ((await (await phone('/api/hand-ins/from-laptop')).json()) as HandIn).pages[0]!;
    expect((await phone(`/api/originals/${page.originalId}`)).status).toBe(200);
    expect((await screensOf(phone)).map(({ thisOne }) => thisOne)).toEqual([true, false]);
  });

  it('takes a code once, not an older one, and none that is guessed; after ten tries nobody may go on', async () => {
    const older = await codeFrom(phone);
    const code = await codeFrom(phone);
    expect((await post(laptop, '/api/link', { code: older })).status).toBe(403);
    expect((await post(laptop, '/api/link', { code })).status).toBe(200);
    const third = server.browser();
    const again = await post(third, '/api/link', { code });
    expect([again.status, ((await again.json()) as { code: string }).code]).toEqual([403, 'LINK_CODE_WRONG']);
    let last = 0;
    for (let i = 0; i < 12; i++)
      last = (await post(third, '/api/link', { code: `AAAA-BB${String(i).padStart(2, '2')}` })).status;
    expect(last).toBe(429);
  });

  it('tells the other screen of each change, and nothing more once it is unlinked', async () => {
    // it listened before it was linked
    const { events, closed } = await listen(laptop);
    await post(laptop, '/api/link', { code: await codeFrom(phone) });
    await withPage(phone, 'from-phone', 10);
    while (events.length < 2) await settle();
    expect(events).toEqual([
      { kind: 'open', seq: 0 },
      { kind: 'changed', seq: 1 },
    ]);
    expect((await unlink(phone, laptop)).status).toBe(204);
    await closed;
    expect(events.at(-1)).toEqual({ kind: 'left' });
    expect(await idsOf(laptop)).toEqual([]);
    expect(await screensOf(phone)).toHaveLength(1);
  });

  it('shows first whose work it is, and afterwards each of them by name', async () => {
    await giveName(phone, 'Mira');
    await giveName(laptop, 'Jonas');
    await withPage(phone, 'from-phone', 10);
    const code = await codeFrom(phone);
    expect(await (await post(laptop, '/api/link/look', { code })).json()).toEqual({
      kind: 'Computer',
      person: 'Mira Test',
      handIns: 1,
    });
    expect((await post(laptop, '/api/link/look', { code: 'AAAA-AAAA' })).status).toBe(403);
    // looking changes nothing
    expect(await idsOf(laptop)).toEqual([]);
    await post(laptop, '/api/link', { code });
    for (const browser of [phone, laptop])
      expect((await screensOf(browser)).map(({ person, cameAlong }) => [person, cameAlong])).toEqual([
        ['Mira Test', false],
        ['Jonas Test', true],
      ]);
  });

  it('can be undone: what came along leaves again, whole, and nothing else', async () => {
    await giveName(laptop, 'Jonas');
    await withPage(phone, 'from-phone', 10);
    await withPage(laptop, 'from-laptop', 20);
    const before = await whole(laptop);
    await post(laptop, '/api/link', { code: await codeFrom(phone) });
    const { owner } = await whole(laptop);
    await sendOperations(laptop, newHandIn('made-together'));
    expect((await unlink(phone, laptop)).status).toBe(204);
    const after = await whole(laptop);
    expect([after.owner, after.left, after.handIns]).toEqual([before.owner, owner, before.handIns]);
    expect((await laptop(`/api/originals/${before.handIns[0]!.pages[0]!.originalId}`)).status).toBe(200);
    expect(await (await laptop('/api/profile')).json()).toMatchObject({ profile: { first: 'Jonas' } });
    expect(await idsOf(phone)).toEqual(['from-phone', 'made-together']);
    expect(((await (await phone('/api/changes?since=0')).json()) as ChangesView).gone).toEqual(['from-laptop']);
    for (const path of [`/api/originals/${before.handIns[0]!.pages[0]!.originalId}`, '/api/hand-ins/from-laptop'])
      expect([path, (await phone(path)).status]).toEqual([path, 404]);
    // and joined again, it comes along again
    await post(laptop, '/api/link', { code: await codeFrom(phone) });
    expect(await idsOf(phone)).toEqual(['from-laptop', 'from-phone', 'made-together']);
    expect(
      (await sendOperations(laptop, newPage('from-laptop', 'page-more', before.handIns[0]!.pages[0]!.originalId)))
        .status,
    ).toBe(200);
  });

  it('lets whoever was lured into it go, and cuts off whom the work began with', async () => {
    await withPage(laptop, 'from-laptop', 20);
    await post(laptop, '/api/link', { code: await codeFrom(phone) });
    // the one who joined leaves by itself
    expect((await unlink(laptop, laptop)).status).toBe(204);
    expect([await idsOf(laptop), await idsOf(phone)]).toEqual([['from-laptop'], []]);
    await post(laptop, '/api/link', { code: await codeFrom(phone) });
    expect((await unlink(laptop, phone)).status).toBe(204);
    const refused = await phone('/api/changes?since=0');
    expect([refused.status, ((await refused.json()) as { code: string }).code]).toEqual([401, 'SCREEN_CUT_OFF']);
    // it begins afresh, as somebody else
    expect(await idsOf(phone)).toEqual([]);
  });
});

describe('a profile', () => {
  it('is the same on every screen, and checked', async () => {
    const profile = {
      first: 'Mira',
      family: 'Tolvanen-Adeyemi',
      number: 'SP-20417',
      paper: 'a4',
      name: null,
      courseNames: {},
    };
    const put = (body: unknown): Promise<Response> =>
      phone('/api/profile', {
        method: 'PUT',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify(body),
      });
    expect((await put(profile)).status).toBe(200);
    await post(laptop, '/api/link', { code: await codeFrom(phone) });
    expect(await (await laptop('/api/profile')).json()).toEqual({ profile });
    const bad = await put({ ...profile, number: 'SP/20417' });
    expect([bad.status, ((await bad.json()) as { message: string }).message]).toEqual([
      400,
      'Letters, digits, spaces, dots and dashes only, as on your student card.',
    ]);
  });
});

describe('what comes from another site', () => {
  it('changes nothing', async () => {
    const response = await phone('/api/link-codes', {
      method: 'POST',
      headers: { origin: 'https://elsewhere.example' },
    });
    expect(response.status).toBe(400);
  });
});
