import type { Database } from '../database';

/** Bytes under their SHA-256: originals and bound files. Put them first, then write what refers to them. */
export interface BlobStore {
  /** Gives the bytes away: they cannot be read afterwards. Safe on return; putting the same twice is putting it once, and puts back bytes that are missing. */
  put(sha256: string, bytes: Uint8Array, nowMs: number): Promise<void>;
  /**
   * What is too large to be in memory at once.
   * @param pieces - of 1 MiB, but for the last; asked for where they are not there yet
   */
  putPieces(sha256: string, bytes: number, pieces: () => AsyncIterable<Uint8Array>, nowMs: number): Promise<void>;
  /** In bytes; 0 where there is no such blob. */
  size(sha256: string): number;
  /** Whether the bytes themselves are there, and not only listed. */
  holds(sha256: string): Promise<boolean>;
  /** In pieces of at most about 1 MiB; none where the bytes are not there. */
  read(sha256: string): AsyncIterable<Uint8Array>;
  /** Lets go of what nothing refers to and what was last put before then. @returns how many */
  removeUnreferred(beforeMs: number): Promise<number>;
}

/** Where the bytes themselves lie; the list of what there is stays beside what refers to them. */
export interface BytePlace {
  /** Whether so many bytes lie there. */
  holds(sha256: string, bytes: number): Promise<boolean>;
  write(sha256: string, bytes: Uint8Array, nowMs: number): Promise<void>;
  writePieces(sha256: string, bytes: number, pieces: AsyncIterable<Uint8Array>, nowMs: number): Promise<void>;
  /** None where nothing lies there. */
  read(sha256: string): AsyncIterable<Uint8Array>;
  /** Lets bytes go that were last written before then. */
  remove(sha256: string, beforeMs: number): Promise<void>;
  /** All that was last written before then and that this server alone can own; where others may share the place, nothing. */
  ownWrittenBefore(ms: number): readonly string[];
}

const ASKED_AT_ONCE = 200;
const nextTurn = (): Promise<void> => new Promise((resolve) => setImmediate(resolve));

/** Bytes are listed once they are there: a crash between the two leaves bytes that nobody refers to, never a gap. */
export function createListedBlobs(db: Database, place: BytePlace): BlobStore {
  const insert = db.prepare<[string, number, number]>(
    'INSERT INTO blob (sha256, bytes, put_at_ms) VALUES (?, ?, ?) ON CONFLICT (sha256) DO UPDATE SET put_at_ms = excluded.put_at_ms',
  );
  const size = db.prepare<[string], { bytes: number }>('SELECT bytes FROM blob WHERE sha256 = ?');
  const unreferred =
    'put_at_ms < ? AND NOT EXISTS (SELECT 1 FROM original WHERE original.sha256 = blob.sha256) AND NOT EXISTS (SELECT 1 FROM bound_file WHERE bound_file.sha256 = blob.sha256) AND NOT EXISTS (SELECT 1 FROM picture WHERE picture.sha256 = blob.sha256)';
  const listUnreferred = db.prepare<[number], { sha256: string }>(`SELECT sha256 FROM blob WHERE ${unreferred}`);
  const dropUnreferred = db.prepare<[number, string]>(`DELETE FROM blob WHERE ${unreferred} AND sha256 = ?`);
  const sizeOf = (sha256: string): number => size.get(sha256)?.bytes ?? 0;
  const inTurn = takeTurns();
  const keep = (sha256: string, bytes: number, write: () => Promise<void>, nowMs: number): Promise<void> =>
    inTurn(sha256, async () => {
      // what is not listed is written even if it lies there: another process may be about to let it go
      if (sizeOf(sha256) === 0 || !(await place.holds(sha256, bytes))) await write();
      insert.run(sha256, bytes, nowMs);
    });
  return {
    put: (sha256, bytes, nowMs) => keep(sha256, bytes.length, () => place.write(sha256, bytes, nowMs), nowMs),
    putPieces: (sha256, bytes, pieces, nowMs) =>
      keep(sha256, bytes, () => place.writePieces(sha256, bytes, pieces(), nowMs), nowMs),
    size: sizeOf,
    holds: async (sha256) => sizeOf(sha256) > 0 && place.holds(sha256, sizeOf(sha256)),
    read: (sha256) => place.read(sha256),
    async removeUnreferred(beforeMs) {
      let dropped = 0;
      for (const { sha256 } of listUnreferred.all(beforeMs)) {
        await inTurn(sha256, async () => {
          // it may have been put again while others went
          if (dropUnreferred.run(beforeMs, sha256).changes === 0) return;
          await place.remove(sha256, beforeMs);
          dropped++;
        });
      }
      for (const [k, sha256] of place.ownWrittenBefore(beforeMs).entries()) {
        if (sizeOf(sha256) === 0) await place.remove(sha256, beforeMs);
        // there may be very many
        if (k % ASKED_AT_ONCE === 0) await nextTurn();
      }
      return dropped;
    },
  };
}

/** Work on one hash happens one after another: bytes are not put while the same are being let go. */
function takeTurns(): (sha256: string, work: () => Promise<void>) => Promise<void> {
  const last = new Map<string, Promise<void>>();
  return (sha256, work) => {
    const turn = (last.get(sha256) ?? Promise.resolve()).catch(() => undefined).then(work);
    last.set(sha256, turn);
    const leave = (): void => void (last.get(sha256) === turn && last.delete(sha256));
    turn.then(leave, leave);
    return turn;
  };
}
