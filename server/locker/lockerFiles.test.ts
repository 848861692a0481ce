import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { openDatabase, type Database } from '../database';
import { createLockerFiles } from './lockerFiles';
import { LOCKER_MIGRATIONS } from './lockerTables';

const folder = mkdtempSync(path.join(tmpdir(), 'fotoplan-locker-'));
afterAll(() => rmSync(folder, { recursive: true }));

const pieces = (db: Database): number => db.prepare<[], { n: number }>('SELECT count(*) AS n FROM piece').get()!.n;
const body = (name: string, onExisting: 'ask' | 'replace' | 'both' = 'ask') => ({ path: '', name, onExisting });
async function contentOf(files: ReturnType<typeof createLockerFiles>, id: string): Promise<Buffer> {
  const parts: Uint8Array[] = [];
  for await (const part of files.open('mira', id)!.pieces) parts.push(part);
  return Buffer.concat(parts);
}

it('a large file comes back whole, and replaced it leaves nothing behind', async () => {
  const db = openDatabase(':memory:', LOCKER_MIGRATIONS);
  const files = createLockerFiles(db, () => 1);
  const first = Buffer.alloc(3_500_000, 'first');
  const kept = await files.keep('mira', body('a.pdf'), first);
  expect((await contentOf(files, kept.id)).equals(first)).toBe(true);
  expect(pieces(db)).toBe(4);
  const second = Buffer.alloc(1_200_000, 'second');
  const replaced = await files.keep('mira', body('a.pdf', 'replace'), second);
  expect((await contentOf(files, replaced.id)).equals(second)).toBe(true);
  expect(pieces(db)).toBe(2);
  expect(files.open('jonas', replaced.id)).toBeNull();
});

it('of two that come at once under one name one is asked about, and nothing of it stays', async () => {
  const db = openDatabase(':memory:', LOCKER_MIGRATIONS);
  const files = createLockerFiles(db, () => 1);
  const ends = await Promise.allSettled(
    ['one', 'two'].map((text) => files.keep('mira', body('a.pdf'), Buffer.alloc(2_500_000, text))),
  );
  expect(ends.map(({ status }) => status).sort()).toEqual(['fulfilled', 'rejected']);
  expect(files.list('mira', '')).toHaveLength(1);
  expect(pieces(db)).toBe(3);
});

it('files of an earlier version are there, and what a crash left is not', async () => {
  const file = path.join(folder, 'locker.sqlite');
  const earlier = openDatabase(file, LOCKER_MIGRATIONS.slice(0, 1));
  earlier.prepare("INSERT INTO file VALUES ('file-1', 'mira', '', 'a.pdf', 5, 'hash', 1, ?)").run(Buffer.from('%PDF-'));
  earlier.close();
  const db = openDatabase(file, LOCKER_MIGRATIONS);
  db.prepare("INSERT INTO piece VALUES ('of-no-file', 0, x'00')").run();
  const files = createLockerFiles(db, () => 1);
  expect((await contentOf(files, 'file-1')).toString()).toBe('%PDF-');
  expect(pieces(db)).toBe(1);
  db.close();
});
