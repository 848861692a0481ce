import PQueue from 'p-queue';
import { FotoplanError } from '../../core/errors';
import type { Jobs } from './jobProtocol';
import { createWorkerClient, type Hearing, type WorkerClient } from './workerClient';

/** Who waits: a hand on a slider, an eye on the screen, somebody who will look soon, nobody. */
export type Priority = 'hand' | 'visible' | 'soon' | 'idle';

export interface JobOptions extends Hearing {
  readonly priority: Priority;
  /** Drops a job that has not begun; one that has begun is finished, and its result thrown away. */
  readonly signal?: AbortSignal;
}

export interface Scheduler {
  /** @throws FotoplanError CANCELLED where the signal ended it, WORKER_LOST where its worker died */
  run<K extends keyof Jobs>(request: Jobs[K]['request'] & { kind: K }, options: JobOptions): Promise<Jobs[K]['result']>;
  /** Starts the workers for long work before there is any, so that it can begin at once. */
  wake(): void;
  /** Lets the worker for what is looked at go while nobody looks: what it remembers makes room. */
  rest(): void;
  stop(): void;
}

const URGENCY: Readonly<Record<Priority, number>> = { hand: 3, visible: 2, soon: 1, idle: 0 };
/** As many pages are worked on at a time, each in a worker of its own; more would be more than a phone has memory for. */
const MOST_LONG_WORKERS = 2;

/** Workers with a queue each, the most urgent first. */
function createLane(workers: readonly WorkerClient[]) {
  const queue = new PQueue({ concurrency: workers.length });
  const free = [...workers];
  return {
    workers,
    add: <T>(
      priority: Priority,
      signal: AbortSignal | undefined,
      work: (worker: WorkerClient) => Promise<T>,
    ): Promise<T> =>
      queue.add(
        async () => {
          if (signal?.aborted === true) throw cancelled();
          const worker = free.pop()!;
          try {
            return await work(worker);
          } finally {
            free.push(worker);
          }
        },
        { priority: URGENCY[priority] },
      ) as Promise<T>,
    clear: () => queue.clear(),
  };
}

const cancelled = (): FotoplanError => new FotoplanError('CANCELLED', 'This was stopped. Nothing was changed.');

/** Rejects as soon as the signal says so, whatever the work does. */
function orCancelled<T>(work: Promise<T>, signal: AbortSignal | undefined): Promise<T> {
  if (signal === undefined) return work;
  return new Promise<T>((resolve, reject) => {
    const stop = (): void => reject(cancelled());
    if (signal.aborted) stop();
    signal.addEventListener('abort', stop, { once: true });
    work.then(resolve, reject).finally(() => signal.removeEventListener('abort', stop));
  });
}

/**
 * Gives work to workers: what somebody waits for has one of its own, so that it never stands behind long work.
 * @param spawn - makes a worker; handed in so that tests can
 * @param cores - that the browser may use: on one, a second worker for long work would take memory and gain nothing
 */
export function createScheduler(spawn: () => Worker, cores: number): Scheduler {
  const quick = createLane([createWorkerClient(spawn)]);
  const longWorkers = cores === 1 ? 1 : MOST_LONG_WORKERS;
  const long = createLane(Array.from({ length: longWorkers }, () => createWorkerClient(spawn)));
  /** What is queued when all ends is rejected, not forgotten. */
  const ending = new AbortController();
  const laneOf = (priority: Priority) => (priority === 'hand' || priority === 'visible' ? quick : long);
  return {
    run: <K extends keyof Jobs>(
      request: Jobs[K]['request'] & { kind: K },
      { priority, signal, ...heard }: JobOptions,
    ) =>
      orCancelled(
        orCancelled(
          laneOf(priority).add(priority, signal, (worker) => worker.run<K>(request, heard)),
          signal,
        ),
        ending.signal,
      ),
    wake: () => long.workers.forEach((worker) => worker.wake()),
    rest: () => quick.workers.forEach((worker) => worker.rest()),
    stop() {
      ending.abort();
      for (const lane of [quick, long]) {
        lane.clear();
        for (const worker of lane.workers) worker.end();
      }
    },
  };
}
