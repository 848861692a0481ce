import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { openBytesFile } from '../blobs/bytesFile';
import { createInlineBytesWork } from '../blobs/bytesWork';
import { openBlobs } from '../blobs/openBlobs';
import { openDatabase } from '../database';
import { MIGRATIONS } from '../migrations/migrations';
import { openData } from '../openData';
import { createChangeRepository } from '../repositories/changeRepository';
import { createHandInRepository } from '../repositories/handInRepository';
import { newHandIn, newPage, NOW_MS, samplePhoto, sendOperations, sendOriginal, sha256, startTestServer } from '../testServer';
import { backUp, integrityProblem, restore } from './backup';
import { cleanUp } from './cleanUp';

/** From this version on the bytes lie in a file of their own. */
const BYTES_APART_VERSION = 6;
const DAY_MS = 24 * 3600 * 1000;
const folder = mkdtempSync(path.join(tmpdir(), 'fotoplan-keeping-'));
afterAll(() => rmSync(folder, { recursive: true }));

describe('cleaning up', () => {
  it('throws away what nobody can come back to, and nothing else', async () => {
    const server = await startTestServer();
    const { db, bytesFile } = server;
    const tidy = (nowMs: number) => cleanUp(db, openBlobs({ db, bytesFile }), createInlineBytesWork(bytesFile), nowMs);
    const mira = server.browser();
    const photos = await Promise.all([1, 2, 3].map((n) => samplePhoto(10 * n)));
    for (const photo of photos) await sendOriginal(mira, photo);
    const [shown, removed, unused] = photos.map(sha256) as [string, string, string];
    await sendOperations(mira, newHandIn('hand-in-1'), newPage('hand-in-1', 'page-one', shown), newPage('hand-in-1', 'page-two', removed), { id: 'operation-remove', handInId: 'hand-in-1', atMs: NOW_MS, kind: 'removePage', pageId: 'page-two' });
    const pdfs = [1, 2, 3, 4].map((n) => Buffer.from(`%PDF-1.7 ${n}`));
    for (const [n, pdf] of pdfs.entries()) await mira(`/api/hand-ins/hand-in-1/bound-files/file-000${n}?name=a.pdf&pages=1&sha256=${sha256(pdf)}`, { method: 'PUT', body: new Blob([pdf]) });
    await mira(`/api/originals/${'e'.repeat(64)}/parts/0`, { method: 'PUT', body: 'half a photo' });

    // too early: it may be on its way to being referred to
    expect(await tidy(NOW_MS + 1000)).toEqual({ purged: 0, boundFiles: 1, originals: 0, blobs: 0, parts: 0 });
    expect(await tidy(NOW_MS + 8 * DAY_MS)).toEqual({ purged: 0, boundFiles: 0, originals: 1, blobs: 2, parts: 1 });
    expect((await mira(`/api/originals/${shown}`)).status).toBe(200);
    expect((await mira(`/api/originals/${removed}`)).status).toBe(200);
    expect((await mira(`/api/originals/${unused}`)).status).toBe(404);
    expect((await mira('/api/bound-files/file-0003')).status).toBe(200);
    expect(await tidy(NOW_MS + 8 * DAY_MS)).toEqual({ purged: 0, boundFiles: 0, originals: 0, blobs: 0, parts: 0 });

    // what was deleted can be restored for 30 days; then its photo goes with it
    expect(await tidy(NOW_MS + 31 * DAY_MS)).toEqual({ purged: 1, boundFiles: 0, originals: 0, blobs: 0, parts: 0 });
    expect(await tidy(NOW_MS + 33 * DAY_MS)).toEqual({ purged: 0, boundFiles: 0, originals: 1, blobs: 1, parts: 0 });
    expect((await mira(`/api/originals/${removed}`)).status).toBe(404);
    expect((await mira(`/api/originals/${shown}`)).status).toBe(200);
    expect(await (await mira('/api/hand-ins/hand-in-1')).json()).toMatchObject({ pages: [{ id: 'page-one' }], deletedPageIds: ['page-two'] });
    await server.close();
  });
});

describe('a backup', () => {
  const data = path.join(folder, 'data');
  const copy = path.join(folder, 'copy');

  it('is made while the server writes, is whole, and comes back', async () => {
    const opened = openData(data);
    const blobs = openBlobs(opened);
    await blobs.put('a'.repeat(64), Buffer.alloc(300_000, 1), 1);
    const [made] = await Promise.all([backUp(data, copy), blobs.put('b'.repeat(64), Buffer.alloc(300_000, 2), 1)]);
    expect(made.map((file) => path.basename(file))).toEqual(['fotoplan.sqlite', 'bytes.sqlite']);
    await blobs.put('c'.repeat(64), Buffer.alloc(10, 3), 1);
    for (const each of [opened.db, opened.bytesFile]) each.close();
    await restore(copy, data);
    const again = openData(data);
    const restored = openBlobs(again);
    expect([restored.size('a'.repeat(64)), restored.size('c'.repeat(64))]).toEqual([300_000, 0]);
    for (const each of [again.db, again.bytesFile]) each.close();
    // what was there before is still beside it
    expect(readdirSync(data)).toContain('fotoplan.sqlite.before');
  });

  it('that is damaged is refused before anything is touched', async () => {
    const broken = path.join(folder, 'broken');
    await backUp(data, broken);
    const file = path.join(broken, 'fotoplan.sqlite');
    const bytes = readFileSync(file);
    bytes.fill(0xff, 4096, bytes.length - 4096);
    writeFileSync(file, bytes.subarray(0, bytes.length - 20_000));
    const before = readFileSync(path.join(data, 'fotoplan.sqlite'));
    await expect(restore(broken, data)).rejects.toMatchObject({ message: expect.stringMatching(/not whole|malformed/) as string });
    expect(readFileSync(path.join(data, 'fotoplan.sqlite')).equals(before)).toBe(true);
    await expect(restore(path.join(folder, 'nowhere'), data)).rejects.toThrow('no backup');
  });
});

describe('data of an earlier version', () => {
  const fixtures = path.join(__dirname, '../migrations/fixtures');

  it('has a fixture for every version before today’s', () => {
    expect(readdirSync(fixtures).sort()).toEqual(MIGRATIONS.slice(0, -1).map((_, i) => `v${i + 1}.sql`));
  });

  it.each(MIGRATIONS.slice(0, -1).map((_, i) => i + 1))('of version %i comes forward with every hand-in, page and byte', async (version) => {
    const own = path.join(folder, `v${version}`);
    const file = path.join(own, 'fotoplan.sqlite');
    const old = openDatabase(file, []);
    old.pragma('foreign_keys = OFF');
    old.exec(readFileSync(path.join(fixtures, `v${version}.sql`), 'utf8'));
    old.pragma(`user_version = ${version}`);
    old.close();
    if (version >= BYTES_APART_VERSION) {
      const bytesFile = openBytesFile(path.join(own, 'bytes.sqlite'));
      await createInlineBytesWork(bytesFile).write(`6f0d1b2c${'0'.repeat(56)}`, Buffer.from('a photo'), 1);
      bytesFile.close();
    }
    const opened = openData(own);
    const { db } = opened;
    expect(db.pragma('user_version', { simple: true })).toBe(MIGRATIONS.length);
    const handIn = createHandInRepository(db).find('owner-1', 'hand-in-1');
    expect(handIn).toMatchObject({ title: 'Set 4', paper: 'a4', removedAtMs: null });
    expect(handIn!.pages[0]).toMatchObject({ id: 'page-one', fileName: 'a.jpg', leftOut: false, removedAtMs: null, recipe: { version: 5, quarterTurns: 1 } });
    // what version 6 had deleted is still there to be restored
    if (version === 6) expect([handIn!.pages[1]?.removedAtMs, createHandInRepository(db).find('owner-1', 'hand-in-2')?.removedAtMs]).toEqual([2, 2]);
    expect(createChangeRepository(db).since('owner-1', 0, 10).map(({ subject }) => subject)).toContain('hand-in-1');
    const parts: Uint8Array[] = [];
    for await (const part of openBlobs(opened).read(handIn!.pages[0]!.originalId)) parts.push(part);
    expect(Buffer.concat(parts).toString()).toBe('a photo');
    expect(db.prepare('SELECT owner_id, cut_off FROM screen').all()).toEqual([{ owner_id: 'owner-1', cut_off: 0 }]);
    for (const each of [db, opened.bytesFile]) each.close();
    for (const each of [file, path.join(own, 'bytes.sqlite')]) expect(integrityProblem(each)).toBeNull();
  });
});
