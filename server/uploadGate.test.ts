import { request } from 'node:http';
import { setTimeout as pause } from 'node:timers/promises';
import { samplePhoto, sendOriginal, startTestServer } from './testServer';
import { createUploadGate } from './uploadGate';

it('hangs up on who stops sending, at every door that takes large bodies, and lets others by long before', async () => {
  const server = await startTestServer({ gate: createUploadGate(60) });
  const mira = server.browser();
  await mira('/api/profile');
  const cookies = async (path: string): Promise<string> => {
    const response = await fetch(`${server.url}${path}/api/session`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ number: 'SP-20417', pin: '2041' }),
    });
    expect(response.status).toBe(201);
    return response.headers
      .getSetCookie()
      .map((cookie) => cookie.split(';')[0])
      .join('; ');
  };
  const form = { 'content-type': 'multipart/form-data; boundary=part' };
  const doors: readonly [string, string, Record<string, string>][] = [
    ['PUT', `/api/originals/${'a'.repeat(64)}`, {}],
    ['POST', '/office/api/assignments/none/submissions', { ...form, cookie: await cookies('/office') }],
    ['POST', '/locker/api/files', { ...form, cookie: await cookies('/locker') }],
    ['POST', '/post/api/messages', { ...form, cookie: await cookies('/post') }],
  ];
  const ends = doors.map(
    ([method, path, headers]) =>
      new Promise<number | 'hung up'>((resolve) => {
        const sending = request(
          `${server.url}${path}`,
          { method, headers: { ...headers, 'content-length': '5000000' } },
          (answer) => resolve(answer.statusCode!),
        );
        sending.once('error', () => resolve('hung up'));
        sending.write(
          headers['content-type'] === undefined
            ? 'abc'
            : '--part\r\ncontent-disposition: form-data; name="file"; filename="a.pdf"\r\ncontent-type: application/pdf\r\n\r\n%PDF-',
        );
      }),
  );
  let hungUp = 0;
  for (const each of ends) void each.then(() => hungUp++);
  await pause(100);
  const honest = samplePhoto(90).then((photo) => sendOriginal(mira, photo));
  expect((await honest).status).toBe(201);
  expect(hungUp).toBe(0);
  expect(await Promise.all(ends)).toEqual(['hung up', 'hung up', 'hung up', 'hung up']);
  await server.close();
});

it('does not hang up on who sends slowly and steadily', async () => {
  const server = await startTestServer({ gate: createUploadGate(30) });
  const mira = server.browser();
  await mira('/api/profile');
  const steady = new ReadableStream<Uint8Array>({
    async pull(body) {
      await pause(100);
      body.enqueue(new Uint8Array(12_000));
      if (++sent === 8) body.close();
    },
  });
  let sent = 0;
  expect(
    (
      await mira(`/api/originals/${'b'.repeat(64)}/parts/0`, {
        method: 'PUT',
        body: steady,
        duplex: 'half',
      } as RequestInit)
    ).status,
  ).toBe(204);
  await server.close();
});

it('hangs up on slow large bodies that would keep the others out for good', async () => {
  const server = await startTestServer({ gate: createUploadGate(40) });
  const mira = server.browser();
  await mira('/api/profile');
  // more of them than may go on beside, each above the least, for ever
  const trickling = Array.from({ length: 8 }, (_, n) => {
    const sending = request(`${server.url}/api/originals/${String(n).repeat(64)}`, {
      method: 'PUT',
      headers: { 'content-length': '30000000' },
    });
    sending.on('error', () => clearInterval(drops));
    const drops = setInterval(() => sending.write(Buffer.alloc(5000)), 40);
    return { sending, drops };
  });
  await pause(100);
  expect((await sendOriginal(mira, await samplePhoto(91))).status).toBe(201);
  for (const { sending, drops } of trickling) {
    clearInterval(drops);
    sending.destroy();
  }
  await server.close();
});
