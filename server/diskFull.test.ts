import { newHandIn, samplePhoto, sendOperations, sendOriginal, sha256, startTestServer } from './testServer';

it('with the disk full reading goes on, writing is refused with a sentence, and with room again all is well', async () => {
  const server = await startTestServer();
  const mira = server.browser();
  const [kept, later] = [await samplePhoto(10), await samplePhoto(20, 3000)];
  await sendOperations(mira, newHandIn('hand-in-1'));
  await sendOriginal(mira, kept);
  // SQLite then answers as on a disk without room
  const files = [server.db, server.bytesFile];
  for (const file of files) file.pragma(`max_page_count = ${file.pragma('page_count', { simple: true }) as number}`);
  const refused = await sendOriginal(mira, later);
  expect([refused.status, await refused.json()]).toEqual([
    507,
    { code: 'SERVER_FULL', message: expect.stringMatching(/no room.*sent again by itself/) as string },
  ]);
  const many = Array.from({ length: 200 }, (_, n) => newHandIn(`hand-in-x${n}`));
  expect((await sendOperations(mira, ...many)).status).toBe(507);
  expect((await mira(`/api/originals/${sha256(kept)}`)).status).toBe(200);
  expect(
    ((await (await mira('/api/changes?since=0')).json()) as { handIns: unknown[] }).handIns.length,
  ).toBeGreaterThan(0);
  expect((await mira(`/api/hand-ins/hand-in-x0`)).status).toBe(404);
  for (const file of files) file.pragma('max_page_count = 1000000');
  expect((await sendOriginal(mira, later)).status).toBe(201);
  expect((await sendOperations(mira, ...many)).status).toBe(200);
  await server.close();
});
