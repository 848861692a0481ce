import { availableParallelism } from 'node:os';
import { Piscina } from 'piscina';
import { fromWireError } from '../../core/errors';
import type {
  Answer,
  DetectAnswer,
  DetectTask,
  InspectAnswer,
  InspectTask,
  PageTask,
  RenderAnswer,
  RenderTask,
} from './pageTasks';

export interface PageCrew {
  detect(task: DetectTask): Promise<DetectAnswer>;
  inspect(task: InspectTask): Promise<InspectAnswer>;
  render(task: RenderTask): Promise<RenderAnswer>;
  close(): Promise<void>;
}

/**
 * A pool of worker threads. Promises reject with FotoplanError, or with an error when a worker dies.
 * @param workerFile - the bundled pageWorker
 * @param threads - how many pages are worked on at a time; one a core where it is left out
 */
export function createPageCrew(workerFile: string, threads = availableParallelism()): PageCrew {
  const pool = new Piscina({ filename: workerFile, maxThreads: threads, minThreads: 1 });
  const ask = async <T>(task: PageTask): Promise<T> => {
    const answer = (await pool.run(task)) as Answer<T>;
    if (!answer.ok) throw fromWireError(answer.error);
    return answer.value;
  };
  return {
    detect: (task) => ask<DetectAnswer>(task),
    inspect: (task) => ask<InspectAnswer>(task),
    render: (task) => ask<RenderAnswer>(task),
    close: () => pool.destroy(),
  };
}
