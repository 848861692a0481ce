import { mkdirSync } from 'node:fs';
import path from 'node:path';
import Sqlite from 'better-sqlite3';

/*
 * Who works in a folder of data holds a lock of SQLite's on a file that is empty otherwise: servers share it, a restore wants it
 * alone. The system lets go of it when a program dies, however it dies.
 */

function openLock(folder: string): Sqlite.Database {
  mkdirSync(folder, { recursive: true });
  const lock = new Sqlite(path.join(folder, 'running.sqlite'), { timeout: 0 });
  lock.exec('CREATE TABLE IF NOT EXISTS held (by_whom)');
  return lock;
}

/**
 * For a server, for as long as it lives.
 * @returns lets go
 * @throws Error where a restore is under way
 */
export function holdDataFolder(folder: string): () => void {
  try {
    const lock = openLock(folder);
    lock.exec('BEGIN; SELECT * FROM held');
    lock.prepare('SELECT * FROM held').all();
    return () => lock.close();
  } catch (cause) {
    throw new Error(
      (cause as { code?: string }).code === 'SQLITE_BUSY'
        ? `A backup is being restored into ${folder}. Start the server when that is done.`
        : `The server cannot write in ${folder}: ${(cause as Error).message}. Let its user write there, or point DATA_DIR at another folder.`,
      { cause },
    );
  }
}

/**
 * For a restore: nobody else may work there.
 * @returns lets go
 * @throws Error where a server runs
 */
export function claimDataFolder(folder: string): () => void {
  try {
    const lock = openLock(folder);
    lock.exec('BEGIN EXCLUSIVE');
    return () => lock.close();
  } catch (cause) {
    throw new Error(
      (cause as { code?: string }).code === 'SQLITE_BUSY'
        ? `A server is running over ${folder}. Stop it, then restore.`
        : `Nothing can be written in ${folder}: ${(cause as Error).message}.`,
      { cause },
    );
  }
}
