import { Worker } from 'node:worker_threads';
import { movable, YOUNG_MB } from '../threads';
import type { BytesWork } from './bytesWork';

/** A call to one of BytesWork's functions, as it crosses to the thread. */
export interface BytesCall {
  readonly id: number;
  readonly name: keyof BytesWork;
  readonly args: readonly unknown[];
}
/** What went wrong on the thread while nobody waited for it. */
export interface BytesTrouble {
  readonly trouble: string;
}
export type BytesAnswer =
  | { readonly id: number; readonly ok: true; readonly result: unknown }
  | { readonly id: number; readonly ok: false; readonly message: string; readonly code?: string };

export interface BytesThread {
  readonly work: BytesWork;
  close(): Promise<void>;
}

/**
 * BytesWork on a thread with a connection of its own: the event loop stays free while megabytes are written
 * and synced. A thread that dies takes the server with it: what it had not answered is sent again by the clients.
 * @param checkpoints - whether the thread brings the files' logs into the files; else a replication tool does
 */
export function startBytesThread(
  script: string,
  folder: string,
  checkpoints: boolean,
  onTrouble: (error: Error) => void,
): BytesThread {
  const worker = new Worker(script, {
    workerData: { folder, checkpoints },
    resourceLimits: { maxYoungGenerationSizeMb: YOUNG_MB },
  });
  const waiting = new Map<number, { resolve: (result: unknown) => void; reject: (error: Error) => void }>();
  let last = 0;
  worker.on('message', (answer: BytesAnswer | BytesTrouble) => {
    if ('trouble' in answer) return onTrouble(new Error(answer.trouble));
    const caller = waiting.get(answer.id);
    waiting.delete(answer.id);
    if (answer.ok) caller?.resolve(answer.result);
    else caller?.reject(Object.assign(new Error(answer.message), { code: answer.code }));
  });
  worker.on('error', (error) => {
    throw error;
  });
  const call = <T>(name: keyof BytesWork, ...args: readonly unknown[]): Promise<T> =>
    new Promise<T>((resolve, reject) => {
      const id = ++last;
      waiting.set(id, { resolve: resolve as (result: unknown) => void, reject });
      worker.postMessage({ id, name, args } satisfies BytesCall, args.flatMap(movable));
    });
  return {
    work: {
      part: (...args) => call('part', ...args),
      join: (...args) => call('join', ...args),
      forget: (...args) => call('forget', ...args),
      forgetBefore: (...args) => call('forgetBefore', ...args),
      write: (...args) => call('write', ...args),
      chunk: (...args) => call('chunk', ...args),
      ping: () => call('ping'),
      remove: (...args) => call('remove', ...args),
    },
    close: async () => void (await worker.terminate()),
  };
}
