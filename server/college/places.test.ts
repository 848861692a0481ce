import { startTestServer, type Browser, type TestServer } from '../testServer';

let server: TestServer;
let mira: Browser;
beforeEach(async () => {
  server = await startTestServer();
  mira = server.browser();
});
afterEach(() => server.close());

const signIn = (browser: Browser, service: string, number = 'SP-20417', pin = '2041'): Promise<Response> =>
  browser(`/${service}/api/session`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ number, pin }),
  });
function form(values: Readonly<Record<string, string>>, file: string | null = '%PDF-1.7 pages'): RequestInit {
  const body = new FormData();
  for (const [name, value] of Object.entries(values)) body.set(name, value);
  if (file !== null) body.set('file', new Blob([file], { type: 'application/pdf' }), 'file.pdf');
  return { method: 'POST', body };
}
const codeOf = async (response: Response): Promise<[number, string]> => [
  response.status,
  ((await response.json()) as { code: string }).code,
];

describe('the college’s services', () => {
  it('each ask for a sign-in of their own', async () => {
    expect(await codeOf(await mira('/locker/api/folder'))).toEqual([401, 'NOT_SIGNED_IN']);
    expect((await signIn(mira, 'office')).status).toBe(201);
    expect(await codeOf(await mira('/locker/api/folder'))).toEqual([401, 'NOT_SIGNED_IN']);
    expect(await codeOf(await mira('/post/api/messages'))).toEqual([401, 'NOT_SIGNED_IN']);
    expect(await codeOf(await signIn(mira, 'post', 'SP-20417', '9999'))).toEqual([403, 'SIGN_IN_WRONG']);
  });
});

describe('the locker', () => {
  beforeEach(() => signIn(mira, 'locker'));

  it('has folders that can be looked into, made and filled', async () => {
    expect(await (await mira('/locker/api/folder')).json()).toEqual({
      path: '',
      folders: ['Seashore Botany', 'Ropework Drawing', 'Tides and Tidal Streams'],
      files: [],
    });
    await mira('/locker/api/folders', {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ path: '/Seashore Botany/Logs' }),
    });
    const saved = await mira(
      '/locker/api/files',
      form({ path: '/Seashore Botany/Logs', name: 'Log.pdf', onExisting: 'ask' }),
    );
    expect(saved.status).toBe(201);
    const { id } = (await saved.json()) as { id: string };
    expect(await (await mira('/locker/api/folder?path=/Seashore%20Botany')).json()).toMatchObject({
      folders: ['Logs'],
    });
    expect(await (await mira(`/locker/api/files/${id}`)).text()).toBe('%PDF-1.7 pages');
    const jonas = server.browser();
    await signIn(jonas, 'locker', 'SP-20388', '2038');
    expect((await jonas(`/locker/api/files/${id}`)).status).toBe(404);
  });

  it('asks before it puts a file in another’s place', async () => {
    const save = (onExisting: string, file: string): Promise<Response> =>
      mira('/locker/api/files', form({ path: '', name: 'Log.pdf', onExisting }, file));
    await save('ask', '%PDF-1');
    expect(await codeOf(await save('ask', '%PDF-2'))).toEqual([409, 'NAME_TAKEN']);
    expect(await (await save('both', '%PDF-2')).json()).toMatchObject({ name: 'Log (2).pdf' });
    expect(await (await save('replace', '%PDF-3')).json()).toMatchObject({ name: 'Log.pdf', bytes: 6 });
  });

  it('takes PDFs only, into folders that are there, under names that are names', async () => {
    expect(
      (await mira('/locker/api/files', form({ path: '', name: 'a.pdf', onExisting: 'ask' }, 'words'))).status,
    ).toBe(400);
    expect((await mira('/locker/api/files', form({ path: '/Nowhere', name: 'a.pdf', onExisting: 'ask' }))).status).toBe(
      404,
    );
    expect((await mira('/locker/api/files', form({ path: '', name: '../a.pdf', onExisting: 'ask' }))).status).toBe(400);
    expect((await mira('/locker/api/files', form({ path: '', name: 'a.pdf', onExisting: 'ask' }, null))).status).toBe(
      400,
    );
  });
});

describe('the post tray', () => {
  beforeEach(() => signIn(mira, 'post'));
  const mail = {
    key: 'key-number-1',
    to: 'office@skerrypoint.example',
    subject: 'Set 4',
    text: 'Here it is.',
    name: 'Set4.pdf',
  };

  it('sends the file itself, once however often it is sent', async () => {
    expect((await mira('/post/api/messages', form(mail))).status).toBe(201);
    expect((await mira('/post/api/messages', form(mail))).status).toBe(201);
    const { messages } = (await (await mira('/post/api/messages')).json()) as {
      messages: { id: string; to: string; bytes: number }[];
    };
    expect(messages).toMatchObject([{ to: 'office@skerrypoint.example', bytes: 14, name: 'Set4.pdf' }]);
    expect(await (await mira(`/post/api/messages/${messages[0]!.id}/attachment`)).text()).toBe('%PDF-1.7 pages');
  });

  it('says what is wrong with an address or a file that is too large', async () => {
    const wrong = await mira('/post/api/messages', form({ ...mail, to: 'the office' }));
    expect([wrong.status, ((await wrong.json()) as { message: string }).message]).toEqual([
      400,
      'Write one mail address, such as office@skerrypoint.example.',
    ]);
    expect(await codeOf(await mira('/post/api/messages', form(mail, '%PDF-'.padEnd(10_000_001))))).toEqual([
      413,
      'FILE_TOO_LARGE',
    ]);
  });
});
