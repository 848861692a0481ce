import { chmodSync, existsSync, mkdirSync, statfsSync } from 'node:fs';
import path from 'node:path';
import Sqlite, { type Database } from 'better-sqlite3';

export type { Database };

/** It is people’s work: no other user of the machine reads it. SQLite gives the log the rights of its file. */
export const OWNER_ONLY = 0o600;

const LEAST_ROOM_BYTES = 1_000_000;
function hasRoom(folder: string): boolean {
  try {
    const { bavail, bsize } = statfsSync(folder);
    return bavail * bsize > LEAST_ROOM_BYTES;
  } catch {
    return true;
  }
}

function opened(file: string): Database {
  try {
    const db = new Sqlite(file);
    db.pragma('journal_mode = WAL');
    return db;
  } catch (cause) {
    const { code, message } = cause as { code?: string; message: string };
    const folder = path.dirname(path.resolve(file));
    const isDamaged = code === 'SQLITE_NOTADB' || code === 'SQLITE_CORRUPT';
    const fix = isDamaged
      ? 'is damaged or no SQLite file. Put a backup in its place: npm run restore -- FOLDER'
      : `cannot be opened (${message}). ${hasRoom(folder) ? `Let the server’s user write in ${folder}.` : `The disk with ${folder} has no room: make some, then start again.`}`;
    throw new Error(`${file} ${fix}`, { cause });
  }
}

/**
 * Opens (or makes) an SQLite file and brings it to today's tables. ":memory:" for tests.
 * @param beforeVersion - called with each version that is about to be reached, outside of its transaction
 */
export function openDatabase(
  file: string,
  migrations: readonly string[],
  beforeVersion: (version: number, db: Database) => void = () => undefined,
): Database {
  const isNew = file !== ':memory:' && !existsSync(file);
  if (isNew) mkdirSync(path.dirname(file), { recursive: true, mode: 0o700 });
  const db = opened(file);
  if (isNew) chmodSync(file, OWNER_ONLY);
  // an answered upload must survive a power cut
  db.pragma('synchronous = FULL');
  db.pragma('foreign_keys = ON');
  migrate(db, migrations, beforeVersion);
  return db;
}

const FULL = new Set(['SQLITE_FULL', 'SQLITE_IOERR_WRITE', 'SQLITE_IOERR_SHMSIZE', 'ENOSPC']);
/** Whether something failed because the disk has no room. */
export const isDiskFull = (error: unknown): boolean => FULL.has(String((error as { code?: unknown } | null)?.code));

/** Does what is of use but not needed, so that reading goes on where the disk is full. */
export function unlessDiskFull(work: () => void): void {
  try {
    work();
  } catch (error) {
    if (!isDiskFull(error)) throw error;
  }
}

function migrate(
  db: Database,
  migrations: readonly string[],
  beforeVersion: (version: number, db: Database) => void,
): void {
  const done = db.pragma('user_version', { simple: true }) as number;
  if (done > migrations.length)
    throw new Error(
      'This data was written by a newer Fotoplan. Update the program, or point DATA_DIR at another folder.',
    );
  migrations.slice(done).forEach((sql, i) => {
    beforeVersion(done + i + 1, db);
    db.transaction(() => {
      db.exec(sql);
      db.pragma(`user_version = ${done + i + 1}`);
    })();
  });
}
