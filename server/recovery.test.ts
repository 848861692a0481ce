import type { ChangesView, RecoveryCodeView } from '../contract/views';
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
let lost: Browser;
let fresh: Browser;
beforeEach(async () => {
  server = await startTestServer();
  lost = server.browser();
  fresh = server.browser();
  const photo = await samplePhoto(90);
  await sendOriginal(lost, photo);
  await sendOperations(lost, newHandIn('hand-in-1'), newPage('hand-in-1', 'page-one', sha256(photo)));
});
afterEach(() => server.close());

const post = (browser: Browser, path: string, body: unknown = {}): Promise<Response> =>
  browser(path, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) });
const make = async (browser: Browser): Promise<string> =>
  ((await (await post(browser, '/api/recovery-code')).json()) as RecoveryCodeView).words.join(' ');
const idsOf = async (browser: Browser): Promise<string[]> =>
  ((await (await browser('/api/changes?since=0')).json()) as ChangesView).handIns.map(({ id }) => id).sort();
const codeOf = async (response: Response): Promise<[number, string]> => [
  response.status,
  ((await response.json()) as { code: string }).code,
];

describe('a recovery code', () => {
  it('has twelve words, is kept only as a hash, and is told only once', async () => {
    const code = await make(lost);
    expect(code.split(' ')).toHaveLength(12);
    expect(JSON.stringify(server.db.prepare('SELECT * FROM recovery_code').all())).not.toContain(code.split(' ')[0]);
    expect(Object.keys((await (await lost('/api/recovery-code')).json()) as object)).toEqual(['madeAtMs']);
  });

  it('brings everything to a new device, with what that has made meanwhile', async () => {
    const code = await make(lost);
    await sendOperations(fresh, newHandIn('hand-in-2'));
    expect((await post(fresh, '/api/recover', { code: `  ${code.toUpperCase().replaceAll(' ', '  ')} ` })).status).toBe(
      200,
    );
    expect(await idsOf(fresh)).toEqual(['hand-in-1', 'hand-in-2']);
    expect(await idsOf(lost)).toEqual(['hand-in-1', 'hand-in-2']);
    // it is good for the next loss too
    const next = server.browser();
    expect((await post(next, '/api/recover', { code })).status).toBe(200);
    expect(await idsOf(next)).toEqual(['hand-in-1', 'hand-in-2']);
  });

  it('is void once it is replaced, and opens nothing when it is guessed', async () => {
    const old = await make(lost);
    const code = await make(lost);
    expect(code).not.toBe(old);
    expect(await codeOf(await post(fresh, '/api/recover', { code: old }))).toEqual([403, 'RECOVERY_CODE_WRONG']);
    expect(await codeOf(await post(fresh, '/api/recover', { code: 'too few words' }))).toEqual([400, 'BODY_INVALID']);
    expect(await codeOf(await post(fresh, '/api/recover', { code: 7 }))).toEqual([400, 'BODY_INVALID']);
    expect(await idsOf(fresh)).toEqual([]);
  });

  it('cannot be tried more than ten times a minute', async () => {
    let last = 0;
    for (let n = 0; n < 12; n++)
      last = (await post(fresh, '/api/recover', { code: Array(12).fill('abandon').join(' ') })).status;
    expect(last).toBe(429);
  });
});

describe('deleting everything', () => {
  it('wants the word for it', async () => {
    for (const word of ['', 'yes', null])
      expect(await codeOf(await post(lost, '/api/delete-everything', { word }))).toEqual([400, 'BODY_INVALID']);
    expect(await idsOf(lost)).toEqual(['hand-in-1']);
  });

  it('leaves nothing of the owner’s, and unlinks their devices, so that none of them brings it back', async () => {
    const code = await make(lost);
    const other = server.browser();
    await post(other, '/api/recover', { code });
    expect((await post(lost, '/api/delete-everything', { word: 'delete' })).status).toBe(204);
    for (const table of [
      'hand_in',
      'page',
      'original',
      'picture',
      'profile',
      'recovery_code',
      'applied_operation',
      'bound_file',
    ]) {
      expect([table, server.db.prepare(`SELECT count(*) AS n FROM ${table}`).get()]).toEqual([table, { n: 0 }]);
    }
    expect(await codeOf(await other('/api/changes?since=0'))).toEqual([401, 'SCREEN_CUT_OFF']);
    expect(await codeOf(await post(fresh, '/api/recover', { code }))).toEqual([403, 'RECOVERY_CODE_WRONG']);
  });

  it('lets whoever did it begin as somebody new at once', async () => {
    const answer = await post(lost, '/api/delete-everything', { word: 'delete' });
    expect(answer.headers.get('set-cookie')).toMatch(/^fotoplan_owner=;/);
  });

  it('touches nobody else', async () => {
    await sendOperations(fresh, newHandIn('hand-in-2'));
    await post(lost, '/api/delete-everything', { word: 'delete' });
    expect(await idsOf(fresh)).toEqual(['hand-in-2']);
  });
});
