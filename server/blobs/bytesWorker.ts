import path from 'node:path';
import { parentPort, workerData } from 'node:worker_threads';
import Sqlite from 'better-sqlite3';
import type { BytesAnswer, BytesCall } from './bytesThread';
import { openBytesFile } from './bytesFile';
import { createInlineBytesWork } from './bytesWork';

const { folder } = workerData as { folder: string };
const work = createInlineBytesWork(openBytesFile(path.join(folder, 'bytes.sqlite')));

// what is small is brought from its log into its file here, where nobody waits for it
const small = new Sqlite(path.join(folder, 'fotoplan.sqlite'));
const BRING_EVERY_MS = 2000;
setInterval(() => small.pragma('wal_checkpoint(PASSIVE)'), BRING_EVERY_MS);

parentPort!.on('message', ({ id, name, args }: BytesCall) => {
  (work[name] as (...args: readonly unknown[]) => Promise<unknown>)(...args).then(
    (result) => parentPort!.postMessage({ id, ok: true, result } satisfies BytesAnswer),
    (error: unknown) => parentPort!.postMessage({ id, ok: false, message: error instanceof Error ? error.message : String(error) } satisfies BytesAnswer),
  );
});
