import { FotoplanError, fromWireError } from '../../core/errors';
import type { FromWorker, PageRequest, PageResult, PageWork, ToWorker } from './pageWorkerProtocol';

interface UnderWay {
  readonly resolve: (result: PageResult) => void;
  readonly reject: (error: FotoplanError) => void;
  readonly onShare: (share: number) => void;
}

export interface PageWorkerClient {
  /** Starts the worker before there is work for it, so that the first request need not wait for that. */
  wake(): void;
  /** Ends a worker that has nothing to do: all it remembers makes room, and the next request starts another. */
  rest(): void;
  /** @param onShare - told how much is done, by work that is long enough to say so */
  run<K extends keyof PageWork>(request: PageWork[K]['request'] & { kind: K }, onShare?: (share: number) => void): Promise<PageWork[K]['result']>;
}

/**
 * Speaks with the page worker. A worker that dies rejects all it had under way and is replaced at the next request.
 * @param spawn - makes a worker; handed in so that tests can
 */
export function createPageWorkerClient(spawn: () => Worker): PageWorkerClient {
  let worker: Worker | null = null;
  let lastId = 0;
  const underWay = new Map<number, UnderWay>();

  const receive = ({ data }: MessageEvent<FromWorker>): void => {
    const work = underWay.get(data.id);
    if (work === undefined) return;
    if ('share' in data) return work.onShare(data.share);
    underWay.delete(data.id);
    if (data.ok) work.resolve(data.result);
    else work.reject(fromWireError(data.error));
  };
  const lose = (): void => {
    worker?.terminate();
    worker = null;
    const lost = [...underWay.values()];
    underWay.clear();
    for (const { reject } of lost) reject(new FotoplanError('WORKER_LOST', 'The page could not be finished: the device ran short of memory. Close other tabs and try again.'));
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
    run: (request, onShare = () => undefined) =>
      new Promise((resolve, reject) => {
        const id = ++lastId;
        underWay.set(id, { resolve: resolve, reject, onShare });
        current().postMessage({ id, request: request as PageRequest } satisfies ToWorker);
      }),
  };
}
