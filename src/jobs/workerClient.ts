import { FotoplanError, fromWireError } from '../../core/errors';
import type { FromWorker, JobRequest, JobResult, Jobs, SmallPictures, ToWorker } from './jobProtocol';

interface UnderWay {
  readonly resolve: (result: JobResult) => void;
  readonly reject: (error: FotoplanError) => void;
  readonly heard: Hearing;
}

/** Told on the way, by work that is long enough to say so. */
export interface Hearing {
  /** How much is done, 0 to 1. */
  readonly onShare?: (share: number) => void;
  readonly onPictures?: (pictures: SmallPictures) => void;
}

export interface WorkerClient {
  /** Starts the worker before there is work for it, so that the first request need not wait for that. */
  wake(): void;
  /** Ends a worker that has nothing to do: all it remembers makes room, and the next request starts another. */
  rest(): void;
  /** Ends the worker whatever it does; all it had under way is rejected. */
  end(): void;
  run<K extends keyof Jobs>(request: Jobs[K]['request'] & { kind: K }, heard?: Hearing): Promise<Jobs[K]['result']>;
}

/**
 * Speaks with one worker. A worker that dies rejects all it had under way and is replaced at the next request.
 * @param spawn - makes a worker; handed in so that tests can
 */
export function createWorkerClient(spawn: () => Worker): WorkerClient {
  let worker: Worker | null = null;
  let lastId = 0;
  const underWay = new Map<number, UnderWay>();

  const receive = ({ data }: MessageEvent<FromWorker>): void => {
    const work = underWay.get(data.id);
    if (work === undefined) return;
    if ('share' in data) return work.heard.onShare?.(data.share);
    if ('pictures' in data) return work.heard.onPictures?.(data.pictures);
    underWay.delete(data.id);
    if (data.ok) work.resolve(data.result);
    else work.reject(fromWireError(data.error));
  };
  const lose = (): void => {
    worker?.terminate();
    worker = null;
    const lost = [...underWay.values()];
    underWay.clear();
    for (const { reject } of lost)
      reject(
        new FotoplanError(
          'WORKER_LOST',
          'The page could not be finished: the device ran short of memory. Close other tabs and try again.',
        ),
      );
  };
  const current = (): Worker => {
    if (worker === null) {
      worker = spawn();
      worker.onmessage = receive;
      worker.onerror = lose;
      worker.onmessageerror = lose;
    }
    return worker;
  };
  return {
    wake: () => void current(),
    rest: () => {
      if (underWay.size === 0) lose();
    },
    end: lose,
    run: (request, heard = {}) =>
      new Promise((resolve, reject) => {
        const id = ++lastId;
        underWay.set(id, { resolve: resolve, reject, heard });
        current().postMessage({ id, request: request as JobRequest } satisfies ToWorker);
      }),
  };
}
