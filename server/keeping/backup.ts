import { existsSync, mkdirSync, renameSync, rmSync } from 'node:fs';
import path from 'node:path';
import Sqlite from 'better-sqlite3';

/** Everything a server keeps. The bytes come after the file that refers to them: a copy holds all that it names. */
export const DATA_FILES = ['fotoplan', 'bytes', 'office', 'locker', 'post'] as const;
const fileIn = (folder: string, name: string): string => path.join(folder, `${name}.sqlite`);

/** Says what is wrong with a file of data, or null where it is whole. */
export function integrityProblem(file: string): string | null {
  const db = new Sqlite(file, { readonly: true });
  try {
    const said = db.pragma('integrity_check', { simple: true }) as string;
    const loose = db.pragma('foreign_key_check') as unknown[];
    return said !== 'ok' ? said : loose.length > 0 ? `${loose.length} rows refer to what is not there` : null;
  } finally {
    db.close();
  }
}

/**
 * Copies all data while the server goes on (SQLite's online backup), and checks the copies.
 * @throws where a copy is not whole; nothing half-made is left under the final names
 */
export async function backUp(dataFolder: string, toFolder: string): Promise<readonly string[]> {
  mkdirSync(toFolder, { recursive: true });
  const made: string[] = [];
  for (const name of DATA_FILES) {
    const from = fileIn(dataFolder, name);
    if (!existsSync(from)) continue;
    const to = fileIn(toFolder, name);
    const making = `${to}.making`;
    const db = new Sqlite(from, { readonly: true });
    await db.backup(making).finally(() => db.close());
    const problem = integrityProblem(making);
    if (problem !== null) {
      rmSync(making);
      throw new Error(`The copy of ${from} is not whole: ${problem}`);
    }
    renameSync(making, to);
    made.push(to);
  }
  if (made.length === 0) throw new Error(`There is no data in ${dataFolder}.`);
  return made;
}

/**
 * Puts a backup in the place of a server's data. The server must not be running; what was there is kept beside it.
 * @throws before anything is touched, where a file of the backup is not whole
 */
export async function restore(fromFolder: string, dataFolder: string): Promise<readonly string[]> {
  const names = DATA_FILES.filter((name) => existsSync(fileIn(fromFolder, name)));
  if (names.length === 0) throw new Error(`There is no backup in ${fromFolder}.`);
  for (const name of names) {
    const problem = integrityProblem(fileIn(fromFolder, name));
    if (problem !== null) throw new Error(`${fileIn(fromFolder, name)} is not whole: ${problem}`);
  }
  mkdirSync(dataFolder, { recursive: true });
  for (const name of names) {
    const to = fileIn(dataFolder, name);
    const source = new Sqlite(fileIn(fromFolder, name), { readonly: true });
    await source.backup(`${to}.restoring`).finally(() => source.close());
    for (const end of ['', '-wal', '-shm']) if (existsSync(`${to}${end}`)) renameSync(`${to}${end}`, `${to}.before${end}`);
    renameSync(`${to}.restoring`, to);
  }
  return names.map((name) => fileIn(dataFolder, name));
}
