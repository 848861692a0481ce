import { createHash, randomUUID } from 'node:crypto';
import { setImmediate as otherRequests } from 'node:timers/promises';
import type { LockerFileBody } from '../../contract/placeBodies';
import type { LockerFileView } from '../../contract/placeViews';
import { FotoplanError } from '../../core/errors';
import type { Database } from '../database';

const MOST_BYTES_TOGETHER = 500_000_000;
const PIECE_BYTES = 1 << 20;

interface FileRow {
  readonly id: string;
  readonly path: string;
  readonly name: string;
  readonly bytes: number;
  readonly sha256: string;
  readonly at_ms: number;
}
const toView = ({ at_ms, ...row }: FileRow): LockerFileView => ({ ...row, atMs: at_ms });

interface OpenFile {
  readonly name: string;
  readonly bytes: number;
  readonly pieces: AsyncIterable<Uint8Array>;
}

/** The files in the locker. Large ones are written and read piece by piece: nobody else waits for the whole. */
export function createLockerFiles(db: Database, now: () => number) {
  const list = db.prepare<[string, string], FileRow>(
    'SELECT id, path, name, bytes, sha256, at_ms FROM file WHERE account_id = ? AND path = ? ORDER BY name',
  );
  const used = db.prepare<[string], { bytes: number | null }>(
    'SELECT sum(bytes) AS bytes FROM file WHERE account_id = ?',
  );
  const dataIdOf = db.prepare<[string, string, string], { data_id: string }>(
    'SELECT data_id FROM file WHERE account_id = ? AND path = ? AND name = ?',
  );
  const insert = db.prepare<[string, string, string, string, number, string, number, string]>(
    'INSERT INTO file (id, account_id, path, name, bytes, sha256, at_ms, data_id) VALUES (?, ?, ?, ?, ?, ?, ?, ?) ON CONFLICT (account_id, path, name) DO UPDATE SET bytes = excluded.bytes, sha256 = excluded.sha256, at_ms = excluded.at_ms, data_id = excluded.data_id',
  );
  const addPiece = db.prepare<[string, number, Uint8Array]>('INSERT INTO piece (data_id, seq, data) VALUES (?, ?, ?)');
  const dropPieces = db.prepare<[string]>('DELETE FROM piece WHERE data_id = ?');
  const one = db.prepare<[string, string], { name: string; bytes: number; data_id: string }>(
    'SELECT name, bytes, data_id FROM file WHERE account_id = ? AND id = ?',
  );
  const piece = db.prepare<[string, number], { data: Buffer }>('SELECT data FROM piece WHERE data_id = ? AND seq = ?');
  // what a crash left of a file that was never listed
  db.exec('DELETE FROM piece WHERE data_id NOT IN (SELECT data_id FROM file)');

  const refuseBeyondRoom = (accountId: string, bytes: number): void => {
    if ((used.get(accountId)?.bytes ?? 0) + bytes > MOST_BYTES_TOGETHER)
      throw new FotoplanError('QUOTA_FULL', 'Your locker is full. Take old files out of it, then save again.');
  };
  /** Under which name it is kept. */
  const nameFor = (accountId: string, { path, name, onExisting }: LockerFileBody): string => {
    const taken = new Set(list.all(accountId, path).map((file) => file.name));
    if (taken.has(name) && onExisting === 'ask')
      throw new FotoplanError(
        'NAME_TAKEN',
        `There is a file called “${name}” in this folder already. Replace it, or keep both.`,
      );
    return taken.has(name) && onExisting === 'both' ? freeName(name, taken) : name;
  };
  const enter = db.transaction(
    (accountId: string, body: LockerFileBody, bytes: number, sha256: string, dataId: string): LockerFileView => {
      // another may have come while the pieces were written
      refuseBeyondRoom(accountId, bytes);
      const name = nameFor(accountId, body);
      const before = dataIdOf.get(accountId, body.path, name);
      insert.run(randomUUID(), accountId, body.path, name, bytes, sha256, now(), dataId);
      if (before !== undefined) dropPieces.run(before.data_id);
      return toView(list.all(accountId, body.path).find((file) => file.name === name)!);
    },
  );
  return {
    list: (accountId: string, path: string): LockerFileView[] => list.all(accountId, path).map(toView),

    /** @throws FotoplanError QUOTA_FULL, NAME_TAKEN */
    async keep(accountId: string, body: LockerFileBody, bytes: Buffer): Promise<LockerFileView> {
      refuseBeyondRoom(accountId, bytes.length);
      nameFor(accountId, body);
      const dataId = randomUUID();
      const hash = createHash('sha256');
      try {
        for (let seq = 0; seq * PIECE_BYTES < bytes.length; seq++) {
          const next = bytes.subarray(seq * PIECE_BYTES, (seq + 1) * PIECE_BYTES);
          hash.update(next);
          addPiece.run(dataId, seq, next);
          await otherRequests();
        }
        return enter(accountId, body, bytes.length, hash.digest('hex'), dataId);
      } catch (error) {
        dropPieces.run(dataId);
        throw error;
      }
    },

    /** @returns null where it is not in this person's locker */
    open(accountId: string, id: string): OpenFile | null {
      const file = one.get(accountId, id);
      if (file === undefined) return null;
      async function* pieces(): AsyncGenerator<Uint8Array> {
        for (let seq = 0; ; seq++) {
          const row = piece.get(file!.data_id, seq);
          if (row === undefined) return;
          yield row.data;
          await otherRequests();
        }
      }
      return { name: file.name, bytes: file.bytes, pieces: pieces() };
    },
  };
}

function freeName(name: string, taken: ReadonlySet<string>): string {
  const stem = name.replace(/\.pdf$/i, '');
  for (let n = 2; ; n++) {
    const next = `${stem} (${n}).pdf`;
    if (!taken.has(next)) return next;
  }
}
