import { mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { unzipSync } from 'fflate';
import { readBundle } from '../../core/work/bundle/bundle';
import { openBlobs } from '../blobs/openBlobs';
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
} from '../testServer';
import { deletePerson, exportPerson, findPeople } from './people';

const folder = mkdtempSync(path.join(tmpdir(), 'fotoplan-people-'));
let server: TestServer;
let mira: Browser;
let jonas: Browser;
let photo: Buffer;
const pdf = Buffer.from('%PDF-1.7 Set 4');
beforeEach(async () => {
  server = await startTestServer({ config: { DEMO: false } });
  [mira, jonas] = [server.browser(), server.browser()];
  photo = await samplePhoto(70);
  for (const [browser, first] of [
    [mira, 'Mira'],
    [jonas, 'Jonas'],
  ] as const) {
    await sendOriginal(browser, photo);
    await sendOperations(
      browser,
      newHandIn(`hand-in-of-${first}`),
      newPage(`hand-in-of-${first}`, 'page-one', sha256(photo)),
    );
    const profile = { first, family: 'Test', number: `SP-${first.length}`, paper: 'auto', name: null, courseNames: {} };
    await browser('/api/profile', {
      method: 'PUT',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(profile),
    });
  }
  await mira(`/api/hand-ins/hand-in-of-Mira/bound-files/file-0001?name=Set%204.pdf&pages=1&sha256=${sha256(pdf)}`, {
    method: 'PUT',
    body: pdf,
  });
});
afterEach(() => server.close());
afterAll(() => rmSync(folder, { recursive: true }));

it('a person is found by name, number or hand-in', () => {
  const found = findPeople(server.db, 'mira t');
  expect(found).toMatchObject([{ name: 'Mira Test', number: 'SP-4', handIns: 1, screens: 1, seenAtMs: NOW_MS }]);
  expect(findPeople(server.db, 'hand-in-of-Jonas').map(({ name }) => name)).toEqual(['Jonas Test']);
  expect(findPeople(server.db, 'SP-').map(({ name }) => name)).toEqual(['Mira Test', 'Jonas Test']);
  expect(findPeople(server.db, found[0]!.id)).toHaveLength(1);
  expect(findPeople(server.db, 'nobody')).toEqual([]);
});

it('all of theirs comes as a zip that can be brought in, and nothing of anybody else', async () => {
  const { id } = findPeople(server.db, 'Mira')[0]!;
  const file = path.join(folder, 'mira.zip');
  await exportPerson(server.db, openBlobs({ db: server.db, bytesFile: server.bytesFile }), id, file);
  const entries = unzipSync(readFileSync(file));
  expect(Object.keys(entries).sort()).toEqual([
    'files/1/Set 4.pdf',
    'fotoplan.json',
    `originals/${sha256(photo)}`,
    'profile.json',
  ]);
  const { handIns } = readBundle(Buffer.from(entries['fotoplan.json']!).toString());
  expect(handIns.map(({ title, pages }) => [title, pages.length])).toEqual([['Set 4', 1]]);
  expect(Buffer.from(entries[`originals/${sha256(photo)}`]!).equals(photo)).toBe(true);
  expect(Buffer.from(entries['files/1/Set 4.pdf']!).equals(pdf)).toBe(true);
  await expect(
    exportPerson(
      server.db,
      openBlobs({ db: server.db, bytesFile: server.bytesFile }),
      'nobody',
      path.join(folder, 'x.zip'),
    ),
  ).rejects.toThrow(/nobody with the id/);
  expect(readdirSync(folder)).toEqual(['mira.zip']);
});

it('all of theirs is deleted, and their devices hear of it; others keep theirs', async () => {
  const { id } = findPeople(server.db, 'Mira')[0]!;
  deletePerson(server.db, id, NOW_MS);
  expect(findPeople(server.db, 'Mira')).toEqual([]);
  expect((await mira('/api/changes?since=0')).status).toBe(401);
  expect((await jonas(`/api/originals/${sha256(photo)}`)).status).toBe(200);
  expect(() => deletePerson(server.db, id, NOW_MS)).toThrow(/nobody/);
});
