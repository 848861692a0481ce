import path from 'node:path';
import { openDatabase, type Database } from '../database';
import { LOCKER_MIGRATIONS } from '../locker/lockerTables';
import { OFFICE_MIGRATIONS } from '../office/officeTables';
import { POST_MIGRATIONS } from '../post/postTables';

/** The simulated college's three services, each with a file of its own; in memory for tests. */
export function openCollege(folder: string | null): { office: Database; locker: Database; post: Database } {
  const open = (name: string, migrations: readonly string[]): Database =>
    openDatabase(folder === null ? ':memory:' : path.join(folder, `${name}.sqlite`), migrations);
  return {
    office: open('office', OFFICE_MIGRATIONS),
    locker: open('locker', LOCKER_MIGRATIONS),
    post: open('post', POST_MIGRATIONS),
  };
}
