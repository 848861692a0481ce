import { Piscina } from 'piscina';
import { FotoplanError, fromWireError, type WireError } from '../../core/errors';
import type { OriginalFacts } from '../../core/work/photo/checkPhotoFile';
import { YOUNG_MB } from '../threads';
import type { FileChecks } from './fileChecks';

export interface CheckTask {
  readonly kind: 'photo' | 'pdfPages';
  readonly bytes: Uint8Array;
  readonly name: string;
  /** One number, set to 1 when a thread begins: what waits for a free one has time. */
  readonly begun: Int32Array;
}
export type CheckAnswer =
  { readonly ok: true; readonly value: OriginalFacts | number } | { readonly ok: false; readonly error: WireError };

/** A whole photo takes some milliseconds, a PDF of a thousand pages about a second. */
const LIMIT_MS = 5000;
const LOOK_EVERY_MS = 100;
const MOST_MEMORY_MB = 256;
const THREADS = 2;

/**
 * The checks on threads. A file over which a thread hangs or runs out of memory costs that thread, which is replaced, and is
 * refused; everything else goes on.
 * @param script - the bundled fileCheckWorker
 */
export function startFileChecks(script: string, limitMs = LIMIT_MS): FileChecks & { close(): Promise<void> } {
  let pool: Piscina | undefined = startThreads();
  function startThreads(): Piscina {
    const threads = new Piscina({
      filename: script,
      minThreads: 1,
      maxThreads: THREADS,
      idleTimeout: 60_000,
      resourceLimits: { maxOldGenerationSizeMb: MOST_MEMORY_MB, maxYoungGenerationSizeMb: YOUNG_MB },
    });
    // A thread that could not even start is told here, and such a pool starts no other: the next question gets a new one.
    threads.on('error', () => {
      if (pool === threads) pool = undefined;
      void threads.destroy();
    });
    return threads;
  }
  async function once(task: Omit<CheckTask, 'begun'>): Promise<CheckAnswer | 'tookTooLong' | 'threadLost'> {
    const limit = new AbortController();
    const begun = new Int32Array(new SharedArrayBuffer(4));
    let leftMs = limitMs;
    const look = setInterval(() => {
      if (Atomics.load(begun, 0) === 1 && (leftMs -= LOOK_EVERY_MS) <= 0) limit.abort();
    }, LOOK_EVERY_MS);
    try {
      pool ??= startThreads();
      return (await pool.run({ ...task, begun }, { signal: limit.signal })) as CheckAnswer;
    } catch {
      return limit.signal.aborted ? 'tookTooLong' : 'threadLost';
    } finally {
      clearInterval(look);
    }
  }
  const ask = async <T>(task: Omit<CheckTask, 'begun'>, refusal: FotoplanError): Promise<T> => {
    let answer = await once(task);
    // it may have been given to a thread that another file has just brought down
    if (answer === 'threadLost') answer = await once(task);
    if (answer === 'tookTooLong' || answer === 'threadLost') throw refusal;
    if (!answer.ok) throw fromWireError(answer.error);
    return answer.value as T;
  };
  return {
    photo: (bytes, name) =>
      ask<OriginalFacts>(
        { kind: 'photo', bytes, name },
        new FotoplanError(
          'PHOTO_NOT_A_PHOTO',
          `“${name}” could not be looked into. Open it, save it as a JPEG and add that.`,
        ),
      ),
    pdfPages: (bytes) =>
      ask<number>(
        { kind: 'pdfPages', bytes, name: '' },
        new FotoplanError('PDF_UNREADABLE', 'This PDF could not be opened in time. Save it again from where it came.'),
      ),
    close: async () => {
      await pool?.destroy();
    },
  };
}
