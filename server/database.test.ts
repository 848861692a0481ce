import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { openDatabase } from './database';
import { createSqliteBlobs } from './blobs/sqliteBlobs';
import { createOriginalRepository } from './repositories/originalRepository';
import { createOwnerRepository } from './repositories/ownerRepository';

describe('the database file', () => {
  const folder = mkdtempSync(path.join(tmpdir(), 'fotoplan-'));
  const file = path.join(folder, 'deep', 'fotoplan.sqlite');
  afterAll(() => rmSync(folder, { recursive: true }));

  it('is made where it is missing, keeps what was written, and is safe against power cuts', async () => {
    const db = openDatabase(file);
    createOwnerRepository(db).add('owner-1', 1);
    await createSqliteBlobs(db).put('a'.repeat(64), new Uint8Array([1, 2, 3]), 1);
    createOriginalRepository(db).add('owner-1', 'a'.repeat(64), { type: 'image/jpeg', width: 10, height: 10, orientation: 1 });
    expect(db.pragma('journal_mode', { simple: true })).toBe('wal');
    expect(db.pragma('synchronous', { simple: true })).toBe(2);
    db.close();
    const again = openDatabase(file);
    const parts: Uint8Array[] = [];
    for await (const part of createSqliteBlobs(again).read('a'.repeat(64))) parts.push(part);
    expect(Buffer.concat(parts)).toEqual(Buffer.from([1, 2, 3]));
    expect(again.pragma('integrity_check', { simple: true })).toBe('ok');
    again.close();
  });

  it('from a newer Fotoplan is left alone', () => {
    const db = openDatabase(file);
    db.pragma('user_version = 999');
    db.close();
    expect(() => openDatabase(file)).toThrow('newer Fotoplan');
  });
});
