import { parentPort, workerData } from 'node:worker_threads';
import { openDatabase } from '../database';
import type { BytesAnswer, BytesCall } from './bytesThread';
import { createInlineBytesWork } from './bytesWork';

const db = openDatabase((workerData as { databaseFile: string }).databaseFile);
// what has been written is brought into the file here, where nobody waits for it
db.pragma('wal_autocheckpoint = 2000');
const work = createInlineBytesWork(db);

parentPort!.on('message', ({ id, name, args }: BytesCall) => {
  (work[name] as (...args: readonly unknown[]) => Promise<unknown>)(...args).then(
    (result) => parentPort!.postMessage({ id, ok: true, result } satisfies BytesAnswer),
    (error: unknown) => parentPort!.postMessage({ id, ok: false, message: error instanceof Error ? error.message : String(error) } satisfies BytesAnswer),
  );
});
