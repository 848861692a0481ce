import path from 'node:path';
import { parentPort, workerData } from 'node:worker_threads';
import Sqlite from 'better-sqlite3';
import { createCollector, movable } from '../threads';
import type { BytesAnswer, BytesCall, BytesTrouble } from './bytesThread';
import { openBytesFile } from './bytesFile';
import { createInlineBytesWork } from './bytesWork';

const { folder, checkpoints } = workerData as { folder: string; checkpoints: boolean };
const bytesFile = openBytesFile(path.join(folder, 'bytes.sqlite'));
const work = createInlineBytesWork(bytesFile);

// what is small is brought from its log into its file here, where nobody waits for it
const BRING_EVERY_MS = 2000;
if (checkpoints) {
  const small = new Sqlite(path.join(folder, 'fotoplan.sqlite'));
  let troubled = false;
  setInterval(() => {
    try {
      small.pragma('wal_checkpoint(PASSIVE)');
      troubled = false;
    } catch (error) {
      // a full disk, most likely: the log stays, and is brought over when there is room
      if (!troubled) parentPort!.postMessage({ trouble: (error as Error).message } satisfies BytesTrouble);
      troubled = true;
    }
  }, BRING_EVERY_MS);
} else bytesFile.pragma('wal_autocheckpoint = 0');

const sizeOf = (value: unknown): number => (value instanceof Uint8Array ? value.byteLength : 0);
const collect = createCollector();
parentPort!.on('message', ({ id, name, args }: BytesCall) => {
  // a function that throws at once rejects, too
  let handled = args.reduce<number>((sum, each) => sum + sizeOf(each), 0);
  new Promise((resolve) => resolve((work[name] as (...args: readonly unknown[]) => unknown)(...args)))
    .then(
      (result) => {
        const { bytes } = (result ?? {}) as { bytes?: unknown };
        handled += sizeOf(bytes);
        parentPort!.postMessage({ id, ok: true, result } satisfies BytesAnswer, movable(bytes));
      },
      (error: Error & { code?: string }) =>
        parentPort!.postMessage({
          id,
          ok: false,
          message: error.message,
          ...(error.code === undefined ? {} : { code: error.code }),
        } satisfies BytesAnswer),
    )
    .finally(() => collect(handled));
});
