import { cpSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { Worker } from 'node:worker_threads';
import { openBytesFile } from '../blobs/bytesFile';
import { createInlineBytesWork } from '../blobs/bytesWork';
import { openBlobs } from '../blobs/openBlobs';
import { openDatabase } from '../database';
import { MIGRATIONS } from '../migrations/migrations';
import { openCollege } from '../college/openCollege';
import { openData } from '../openData';
import { createChangeRepository } from '../repositories/changeRepository';
import { createHandInRepository } from '../repositories/handInRepository';
import {
  newHandIn,
  newPage,
  NOW_MS,
  samplePhoto,
  sendOperations,
  sendOriginal,
  sha256,
  startTestServer,
} from '../testServer';
import { backUp, integrityProblem, restore } from './backup';
import { cleanUp } from './cleanUp';
import { claimDataFolder, holdDataFolder } from './dataFolderLock';
import { RECIPE_VERSION } from '../../core/work/recipe/recipe';

/** From this version on the bytes lie in a file of their own. */
const BYTES_APART_VERSION = 6;
const DAY_MS = 24 * 3600 * 1000;
const folder = mkdtempSync(path.join(tmpdir(), 'fotoplan-keeping-'));
afterAll(() => rmSync(folder, { recursive: true }));

describe('cleaning up', () => {
  it('throws away what nobody can come back to, and nothing else', async () => {
    const server = await startTestServer();
    const { db, bytesFile } = server;
    const tidy = (nowMs: number) =>
      cleanUp(
        {
          db,
          college: openCollege(null),
          blobs: openBlobs({ db, bytesFile }),
          bytesWork: createInlineBytesWork(bytesFile),
        },
        nowMs,
      );
    const mira = server.browser();
    const photos = await Promise.all([1, 2, 3].map((n) => samplePhoto(10 * n)));
    for (const photo of photos) await sendOriginal(mira, photo);
    const [shown, removed, unused] = photos.map(sha256) as [string, string, string];
    await sendOperations(
      mira,
      newHandIn('hand-in-1'),
      newPage('hand-in-1', 'page-one', shown),
      newPage('hand-in-1', 'page-two', removed),
      { id: 'operation-remove', handInId: 'hand-in-1', atMs: NOW_MS, kind: 'removePage', pageId: 'page-two' },
    );
    const pdfs = [1, 2, 3, 4].map((n) => Buffer.from(`%PDF-1.7 ${n}`));
    for (const [n, pdf] of pdfs.entries())
      await mira(`/api/hand-ins/hand-in-1/bound-files/file-000${n}?name=a.pdf&pages=1&sha256=${sha256(pdf)}`, {
        method: 'PUT',
        body: new Blob([pdf]),
      });
    await mira(`/api/originals/${'e'.repeat(64)}/parts/0`, { method: 'PUT', body: 'half a photo' });

    // too early: it may be on its way to being referred to
    expect(await tidy(NOW_MS + 1000)).toEqual({
      purged: 0,
      boundFiles: 1,
      originals: 0,
      blobs: 0,
      parts: 0,
      owners: 0,
    });
    expect(await tidy(NOW_MS + 8 * DAY_MS)).toEqual({
      purged: 0,
      boundFiles: 0,
      originals: 1,
      blobs: 2,
      parts: 1,
      owners: 0,
    });
    expect((await mira(`/api/originals/${shown}`)).status).toBe(200);
    expect((await mira(`/api/originals/${removed}`)).status).toBe(200);
    expect((await mira(`/api/originals/${unused}`)).status).toBe(404);
    expect((await mira('/api/bound-files/file-0003')).status).toBe(200);
    expect(await tidy(NOW_MS + 8 * DAY_MS)).toEqual({
      purged: 0,
      boundFiles: 0,
      originals: 0,
      blobs: 0,
      parts: 0,
      owners: 0,
    });

    // what was deleted can be restored for 30 days; then its photo goes with it
    expect(await tidy(NOW_MS + 31 * DAY_MS)).toEqual({
      purged: 1,
      boundFiles: 0,
      originals: 0,
      blobs: 0,
      parts: 0,
      owners: 0,
    });
    expect(await tidy(NOW_MS + 33 * DAY_MS)).toEqual({
      purged: 0,
      boundFiles: 0,
      originals: 1,
      blobs: 1,
      parts: 0,
      owners: 0,
    });
    expect((await mira(`/api/originals/${removed}`)).status).toBe(404);
    expect((await mira(`/api/originals/${shown}`)).status).toBe(200);
    expect(await (await mira('/api/hand-ins/hand-in-1')).json()).toMatchObject({
      pages: [{ id: 'page-one' }],
      deletedPageIds: ['page-two'],
    });
    await server.close();
  });
});

describe('a backup', () => {
  const data = path.join(folder, 'data');
  const copy = path.join(folder, 'copy');

  const hash = (letter: string): string => letter.repeat(64);
  const withData = async <T>(work: (blobs: ReturnType<typeof openBlobs>) => T): Promise<Awaited<T>> => {
    const opened = openData(data);
    const result = await work(openBlobs(opened));
    for (const each of [opened.db, opened.bytesFile]) each.close();
    return result;
  };

  it('is made while the server writes, is whole, and comes back', async () => {
    const made = await withData(async (blobs) => {
      await blobs.put(hash('a'), Buffer.alloc(300_000, 1), 1);
      const files = backUp(data, copy);
      await blobs.put(hash('c'), Buffer.alloc(10, 3), 1);
      return files;
    });
    expect(made.map((file) => path.basename(file))).toEqual(['fotoplan.sqlite', 'bytes.sqlite']);
    if (process.platform !== 'win32') for (const file of made) expect(statSync(file).mode & 0o077).toBe(0);
    restore(copy, data);
    expect(await withData((blobs) => [blobs.size(hash('a')), blobs.size(hash('c'))])).toEqual([300_000, 0]);
    // what was there before is still beside it
    expect(readdirSync(data)).toContain('fotoplan.sqlite.before');
  });

  it('ends however steadily is written, and is of one moment', async () => {
    const steady = path.join(folder, 'steady');
    const opened = openData(steady);
    const writer = new Worker(
      `const { workerData } = require('node:worker_threads'); const Sqlite = require('better-sqlite3'); const db = new Sqlite(workerData.file); db.pragma('journal_mode = WAL');
       let n = 0; setInterval(() => { for (let k = 0; k < 20; k++) db.prepare("INSERT INTO body (sha256, put_at_ms) VALUES ('w' || ?, 1)").run(++n); }, 1);`,
      { eval: true, workerData: { file: path.join(steady, 'bytes.sqlite') } },
    );
    await openBlobs(opened).put(hash('a'), Buffer.alloc(3_000_000, 1), 1);
    backUp(steady, path.join(folder, 'steady-copy'));
    await writer.terminate();
    for (const each of [opened.db, opened.bytesFile]) each.close();
    expect(integrityProblem(path.join(folder, 'steady-copy', 'bytes.sqlite'))).toBeNull();
  });

  it('replaces the one of before only when it is whole', async () => {
    await withData((blobs) => blobs.put(hash('d'), Buffer.alloc(10, 3), 1));
    const before = readdirSync(copy).map((name) => [name, readFileSync(path.join(copy, name)).toString('latin1')]);
    const broken = path.join(folder, 'broken-data');
    cpSync(data, broken, { recursive: true });
    writeFileSync(path.join(broken, 'office.sqlite'), 'no database');
    expect(() => backUp(broken, copy)).toThrow();
    expect(readdirSync(copy).map((name) => [name, readFileSync(path.join(copy, name)).toString('latin1')])).toEqual(
      before,
    );
    expect(readdirSync(folder).filter((name) => name.includes('making'))).toEqual([]);
    backUp(data, copy);
    expect(readdirSync(copy).sort()).toEqual(['backup.json', 'bytes.sqlite', 'fotoplan.sqlite']);
  });

  it('of which a part is missing, is another’s or damaged is refused before anything is touched', async () => {
    const bad = path.join(folder, 'bad');
    const older = path.join(folder, 'older');
    await withData((blobs) => blobs.put(hash('e'), Buffer.alloc(10, 3), 1));
    cpSync(copy, older, { recursive: true });
    backUp(data, copy);
    const original = readFileSync(path.join(data, 'fotoplan.sqlite'));
    const refusal = (spoil: () => void): string => {
      rmSync(bad, { recursive: true, force: true });
      cpSync(copy, bad, { recursive: true });
      spoil();
      try {
        restore(bad, data);
        return 'restored';
      } catch (error) {
        return (error as Error).message;
      }
    };
    const at = (name: string): string => path.join(bad, name);
    expect(refusal(() => rmSync(at('bytes.sqlite')))).toMatch(/bytes\.sqlite is missing/);
    expect(refusal(() => cpSync(path.join(older, 'bytes.sqlite'), at('bytes.sqlite')))).toMatch(/from another one/);
    // as an earlier version made them, without a list
    expect(
      refusal(() => {
        cpSync(path.join(older, 'bytes.sqlite'), at('bytes.sqlite'));
        rmSync(at('backup.json'));
      }),
    ).toMatch(/1 photos and files listed .* do not belong together/);
    expect(
      refusal(() => writeFileSync(at('fotoplan.sqlite'), readFileSync(at('fotoplan.sqlite')).fill(0xff, 4096))),
    ).toMatch(/damaged/);
    expect(() => restore(path.join(folder, 'nowhere'), data)).toThrow('no backup');
    expect(readFileSync(path.join(data, 'fotoplan.sqlite')).equals(original)).toBe(true);
  });

  it('is not restored beside a running server, and no server starts meanwhile', () => {
    const letGo = holdDataFolder(data);
    const alsoHeld = holdDataFolder(data);
    expect(() => restore(copy, data)).toThrow(/server is running .* Stop it/);
    letGo();
    expect(() => claimDataFolder(data)).toThrow();
    alsoHeld();
    const restored = claimDataFolder(data);
    expect(() => holdDataFolder(data)).toThrow(/being restored/);
    restored();
    restore(copy, data);
  });

  it('goes into no folder that holds something else', () => {
    const other = path.join(folder, 'other');
    mkdirSync(other);
    writeFileSync(path.join(other, 'thesis.txt'), 'mine');
    expect(() => backUp(data, other)).toThrow(/something else/);
    expect(readdirSync(other)).toEqual(['thesis.txt']);
  });
});

describe('data of an earlier version', () => {
  const fixtures = path.join(__dirname, '../migrations/fixtures');

  it('has a fixture for every version before today’s', () => {
    expect(readdirSync(fixtures).sort()).toEqual(MIGRATIONS.slice(0, -1).map((_, i) => `v${i + 1}.sql`));
  });

  it.each(MIGRATIONS.slice(0, -1).map((_, i) => i + 1))(
    'of version %i comes forward with every hand-in, page and byte',
    async (version) => {
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
      expect(handIn!.pages[0]).toMatchObject({
        id: 'page-one',
        fileName: 'a.jpg',
        leftOut: false,
        removedAtMs: null,
        recipe: { version: RECIPE_VERSION, quarterTurns: 1 },
      });
      // what version 6 had deleted is still there to be restored
      if (version === 6)
        expect([
          handIn!.pages[1]?.removedAtMs,
          createHandInRepository(db).find('owner-1', 'hand-in-2')?.removedAtMs,
        ]).toEqual([2, 2]);
      expect(
        createChangeRepository(db)
          .since('owner-1', 0, 10)
          .map(({ subject }) => subject),
      ).toContain('hand-in-1');
      const parts: Uint8Array[] = [];
      for await (const part of openBlobs(opened).read(handIn!.pages[0]!.originalId)) parts.push(part);
      expect(Buffer.concat(parts).toString()).toBe('a photo');
      expect(db.prepare('SELECT owner_id, cut_off FROM screen').all()).toEqual([{ owner_id: 'owner-1', cut_off: 0 }]);
      for (const each of [db, opened.bytesFile]) each.close();
      for (const each of [file, path.join(own, 'bytes.sqlite')]) expect(integrityProblem(each)).toBeNull();
    },
  );
});
