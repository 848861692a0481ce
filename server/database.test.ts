import { mkdtempSync, readdirSync, rmSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { openBlobs } from './blobs/openBlobs';
import { openData } from './openData';
import { createOriginalRepository } from './repositories/originalRepository';
import { createOwnerRepository } from './repositories/ownerRepository';

describe('the database file', () => {
  const folder = mkdtempSync(path.join(tmpdir(), 'fotoplan-'));
  const deep = path.join(folder, 'deep');
  afterAll(() => rmSync(folder, { recursive: true }));

  it('is made where it is missing, keeps what was written, and is safe against power cuts', async () => {
    const data = openData(deep);
    const { db } = data;
    createOwnerRepository(db).add('owner-1', 1);
    await openBlobs(data).put('a'.repeat(64), new Uint8Array([1, 2, 3]), 1);
    createOriginalRepository(db).add('owner-1', 'a'.repeat(64), {
      type: 'image/jpeg',
      width: 10,
      height: 10,
      orientation: 1,
    });
    expect(db.pragma('journal_mode', { simple: true })).toBe('wal');
    expect(db.pragma('synchronous', { simple: true })).toBe(2);
    if (process.platform !== 'win32')
      for (const name of readdirSync(deep)) expect(statSync(path.join(deep, name)).mode & 0o077).toBe(0);
    const closeBoth = ({ db: main, bytesFile }: typeof data): void =>
      [main, bytesFile].forEach((each) => void each.close());
    closeBoth(data);
    const again = openData(deep);
    const parts: Uint8Array[] = [];
    for await (const part of openBlobs(again).read('a'.repeat(64))) parts.push(part);
    expect(Buffer.concat(parts)).toEqual(Buffer.from([1, 2, 3]));
    for (const each of [again.db, again.bytesFile]) expect(each.pragma('integrity_check', { simple: true })).toBe('ok');
    closeBoth(again);
  });

  it('from a newer Fotoplan is left alone', () => {
    const { db } = openData(deep);
    db.pragma('user_version = 999');
    db.close();
    expect(() => openData(deep)).toThrow('newer Fotoplan');
  });
});
