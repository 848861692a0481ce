import { createHash, randomUUID } from 'node:crypto';
import {
  chmodSync,
  closeSync,
  existsSync,
  fsyncSync,
  mkdirSync,
  openSync,
  readdirSync,
  readFileSync,
  readSync,
  renameSync,
  rmSync,
  statSync,
  writeFileSync,
} from 'node:fs';
import path from 'node:path';
import Sqlite, { type Database } from 'better-sqlite3';
import { OWNER_ONLY } from '../database';
import { claimDataFolder } from './dataFolderLock';

/** Everything a server keeps. The bytes come after the file that refers to them: a copy holds all that it names. */
export const DATA_FILES = ['fotoplan', 'bytes', 'office', 'locker', 'post'] as const;
const fileIn = (folder: string, name: string): string => path.join(folder, `${name}.sqlite`);

/** What a backup says of itself; it is written last. */
interface Backup {
  readonly madeAt: string;
  /** Each file with its SHA-256. */
  readonly files: Readonly<Record<string, string>>;
  /** SHA-256 of bytes that the server itself had lost when the backup was made. */
  readonly gaps: readonly string[];
}
const LIST = 'backup.json';
const DAY_MS = 24 * 3600_000;
const COPIES_TRIED = 3;
const PIECE_BYTES = 1 << 20;

/** Says what is wrong with a file of data, or null where it is whole. */
export function integrityProblem(file: string): string | null {
  return reading(file, (db) => {
    const said = db.pragma('integrity_check', { simple: true }) as string;
    const loose = db.pragma('foreign_key_check') as unknown[];
    return said !== 'ok' ? said : loose.length > 0 ? `${loose.length} rows refer to what is not there` : null;
  });
}

/** The SHA-256 of photos and files that are listed in a folder and are not there. */
function missingBytes(folder: string): readonly string[] {
  if (!existsSync(fileIn(folder, 'fotoplan')) || !existsSync(fileIn(folder, 'bytes'))) return [];
  return reading(fileIn(folder, 'bytes'), (bytes) => {
    const held = bytes.prepare<[string], { bytes: number | null }>(
      'SELECT sum(length(data)) AS bytes FROM chunk WHERE sha256 = ?',
    );
    return reading(fileIn(folder, 'fotoplan'), (db) => {
      const listed = db.prepare<[], { sha256: string; bytes: number }>('SELECT sha256, bytes FROM blob').all();
      return listed.filter(({ sha256, bytes: size }) => held.get(sha256)?.bytes !== size).map(({ sha256 }) => sha256);
    });
  });
}

function reading<T>(file: string, read: (db: Database) => T): T {
  const db = new Sqlite(file, { readonly: true });
  try {
    return read(db);
  } finally {
    db.close();
  }
}

export interface KeepingOptions {
  /** Photos and files lie in a bucket, which has its own copies. */
  readonly inBucket?: boolean;
}

/**
 * Copies all data while the server goes on, and checks the copies. Each file is copied as it stands at one moment, however much is
 * written meanwhile. A backup of before is replaced in one step, once the new one is whole.
 * @throws Error where there is nothing to copy or a copy is not whole; then the backup of before is as it was
 */
export function backUp(
  dataFolder: string,
  toFolder: string,
  { inBucket = false }: KeepingOptions = {},
): readonly string[] {
  const names = DATA_FILES.filter((name) => existsSync(fileIn(dataFolder, name)));
  if (names.length === 0) throw new Error(`There is no data in ${dataFolder}.`);
  const to = path.resolve(toFolder);
  if (existsSync(to) && !existsSync(path.join(to, LIST)) && readdirSync(to).length > 0 && !isOldBackup(to))
    throw new Error(`${to} holds something else than a backup. Name a folder of its own.`);
  mkdirSync(path.dirname(to), { recursive: true });
  forgetBrokenOff(to);
  const making = `${to}.making-${randomUUID().slice(0, 8)}`;
  try {
    let gaps: readonly string[] = [];
    for (let tries = 0; tries < COPIES_TRIED; tries++) {
      copyAll(names, dataFolder, making);
      gaps = inBucket ? [] : missingBytes(making);
      // the clean-up may have run between the copies; what is missing every time is missing at the server
      if (gaps.length === 0) break;
    }
    for (const name of names) {
      const problem = integrityProblem(fileIn(making, name));
      if (problem !== null) throw new Error(`The copy of ${fileIn(dataFolder, name)} is not whole: ${problem}`);
    }
    const list: Backup = {
      madeAt: new Date().toISOString(),
      files: Object.fromEntries(names.map((name) => [`${name}.sqlite`, sha256Of(fileIn(making, name))])),
      gaps,
    };
    writeFileSync(path.join(making, LIST), JSON.stringify(list, null, 2));
  } catch (error) {
    rmSync(making, { recursive: true, force: true });
    throw error;
  }
  const before = `${making}.before`;
  if (existsSync(to)) renameSync(to, before);
  renameSync(making, to);
  rmSync(before, { recursive: true, force: true });
  return names.map((name) => fileIn(to, name));
}

/** What a backup left that was killed a day ago or earlier. */
function forgetBrokenOff(to: string): void {
  const folder = path.dirname(to);
  for (const name of readdirSync(folder).filter((each) => each.startsWith(`${path.basename(to)}.making-`))) {
    if (Date.now() - statSync(path.join(folder, name)).mtimeMs > DAY_MS)
      rmSync(path.join(folder, name), { recursive: true, force: true });
  }
}

function copyAll(names: readonly string[], fromFolder: string, toFolder: string): void {
  rmSync(toFolder, { recursive: true, force: true });
  mkdirSync(toFolder);
  for (const name of names) copyOne(fileIn(fromFolder, name), fileIn(toFolder, name));
}

/** VACUUM INTO reads in one transaction: it ends, however much is written meanwhile. */
function copyOne(from: string, to: string): void {
  reading(from, (db) => db.prepare('VACUUM INTO ?').run(to));
  chmodSync(to, OWNER_ONLY);
  const file = openSync(to, 'r+');
  fsyncSync(file);
  closeSync(file);
}

/** An earlier version made backups without a list. */
const isOldBackup = (folder: string): boolean =>
  readdirSync(folder).every((name) => DATA_FILES.some((each) => name.startsWith(`${each}.sqlite`)));

/** In pieces: the file for bytes may be larger than memory. */
function sha256Of(file: string): string {
  const hash = createHash('sha256');
  const piece = Buffer.alloc(PIECE_BYTES);
  const open = openSync(file, 'r');
  try {
    for (let read = readSync(open, piece); read > 0; read = readSync(open, piece)) hash.update(piece.subarray(0, read));
  } finally {
    closeSync(open);
  }
  return hash.digest('hex');
}

/**
 * Puts a backup in the place of a server's data; what was there is kept beside it.
 * @throws Error before anything is touched, where a server runs or the backup is not whole: all files of one backup, each photo there
 */
export function restore(
  fromFolder: string,
  dataFolder: string,
  { inBucket = false }: KeepingOptions = {},
): readonly string[] {
  const names = DATA_FILES.filter((name) => existsSync(fileIn(fromFolder, name)));
  if (names.length === 0) throw new Error(`There is no backup in ${fromFolder}.`);
  const letGo = claimDataFolder(dataFolder);
  try {
    refuseBroken(fromFolder, names, inBucket);
    for (const name of names) {
      const restoring = `${fileIn(dataFolder, name)}.restoring`;
      rmSync(restoring, { force: true });
      copyOne(fileIn(fromFolder, name), restoring);
    }
    for (const name of DATA_FILES) {
      const to = fileIn(dataFolder, name);
      for (const end of ['', '-wal', '-shm'])
        if (existsSync(`${to}${end}`)) renameSync(`${to}${end}`, `${to}.before${end}`);
    }
    for (const name of names) renameSync(`${fileIn(dataFolder, name)}.restoring`, fileIn(dataFolder, name));
  } finally {
    letGo();
  }
  return names.map((name) => fileIn(dataFolder, name));
}

function refuseBroken(folder: string, names: readonly string[], inBucket: boolean): void {
  for (const name of ['fotoplan', ...(inBucket ? [] : ['bytes'])])
    if (!names.includes(name))
      throw new Error(`${fileIn(folder, name)} is missing: this is a part of a backup. Take a whole one.`);
  const list = path.join(folder, LIST);
  let known: readonly string[] = [];
  if (existsSync(list)) {
    const { files, gaps } = JSON.parse(readFileSync(list, 'utf8')) as Backup;
    known = gaps;
    const strange = [...new Set([...Object.keys(files), ...names.map((name) => `${name}.sqlite`)])].find(
      (file) => !existsSync(path.join(folder, file)) || files[file] !== sha256Of(path.join(folder, file)),
    );
    if (strange !== undefined)
      throw new Error(
        `${path.join(folder, strange)} is not the one of this backup: it is damaged, or from another one. Take a whole one.`,
      );
  }
  for (const name of names) {
    const problem = integrityProblem(fileIn(folder, name));
    if (problem !== null) throw new Error(`${fileIn(folder, name)} is not whole: ${problem}`);
  }
  const missing = inBucket ? [] : missingBytes(folder).filter((sha256) => !known.includes(sha256));
  if (missing.length > 0)
    throw new Error(
      `${missing.length} photos and files listed in ${fileIn(folder, 'fotoplan')} are not in ${fileIn(folder, 'bytes')}: they do not belong together. Take a whole backup.`,
    );
}
