import path from 'node:path';
import { openBytesFile } from './blobs/bytesFile';
import { createInlineBytesWork } from './blobs/bytesWork';
import { openDatabase, type Database } from './database';
import { MIGRATIONS } from './migrations/migrations';

/** What Fotoplan itself keeps: everything small, and the bytes. */
export interface OpenData {
  readonly db: Database;
  readonly bytesFile: Database;
}

const BYTES_APART_VERSION = 6;

/** @param folder - null for data in memory, as tests want them */
export function openData(folder: string | null): OpenData {
  const at = (name: string): string => (folder === null ? ':memory:' : path.join(folder, `${name}.sqlite`));
  const bytesFile = openBytesFile(at('bytes'));
  const db = openDatabase(at('fotoplan'), MIGRATIONS, (version, old) => {
    if (version === BYTES_APART_VERSION) bringBytes(old, bytesFile);
  });
  return { db, bytesFile };
}

/** Earlier versions had the bytes among the rest. Doing it twice does no harm: a crash in between is made good at the next start. */
function bringBytes(old: Database, bytesFile: Database): void {
  const work = createInlineBytesWork(bytesFile);
  const chunks = old.prepare<[string], { data: Buffer }>('SELECT data FROM blob_chunk WHERE sha256 = ? ORDER BY seq');
  for (const { sha256, put_at_ms } of old
    .prepare<[], { sha256: string; put_at_ms: number }>('SELECT sha256, put_at_ms FROM blob')
    .all()) {
    const parts = chunks.all(sha256).map(({ data }) => data);
    if (parts.length > 0) void work.write(sha256, Buffer.concat(parts), put_at_ms);
  }
}
