import { mkdirSync } from 'node:fs';
import path from 'node:path';
import Sqlite, { type Database } from 'better-sqlite3';

export type { Database };

/**
 * Opens (or makes) an SQLite file and brings it to today's tables. ":memory:" for tests.
 * @param beforeVersion - called with each version that is about to be reached, outside of its transaction
 */
export function openDatabase(file: string, migrations: readonly string[], beforeVersion: (version: number, db: Database) => void = () => undefined): Database {
  if (file !== ':memory:') mkdirSync(path.dirname(file), { recursive: true });
  const db = new Sqlite(file);
  db.pragma('journal_mode = WAL');
  // an answered upload must survive a power cut
  db.pragma('synchronous = FULL');
  db.pragma('foreign_keys = ON');
  migrate(db, migrations, beforeVersion);
  return db;
}

function migrate(db: Database, migrations: readonly string[], beforeVersion: (version: number, db: Database) => void): void {
  const done = db.pragma('user_version', { simple: true }) as number;
  if (done > migrations.length) throw new Error('This data was written by a newer Fotoplan. Update the program, or point DATA_DIR at another folder.');
  migrations.slice(done).forEach((sql, i) => {
    beforeVersion(done + i + 1, db);
    db.transaction(() => {
      db.exec(sql);
      db.pragma(`user_version = ${done + i + 1}`);
    })();
  });
}
