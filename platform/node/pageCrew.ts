import { availableParallelism } from 'node:os';
import { setFlagsFromString } from 'node:v8';
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
 * Where large buffers come and go, a small young generation (its size in MB; pages have few objects in it) lets the collector
 * look often: threads of 48 MB held 750 MB for twelve photos on two cores, of 6 MB 630.
 */
const YOUNG_GENERATION_MB = 6;

/** Lets threads give large buffers back at once (ArrayBuffer.transfer), which V8 has since 11.3 and Node shows since 21. */
function letBuffersGo(): void {
  if (!('transfer' in ArrayBuffer.prototype)) setFlagsFromString('--harmony-rab-gsab-transfer');
}

/**
 * A pool of worker threads. Promises reject with FotoplanError, or with an error when a worker dies.
 * @param workerFile - the bundled pageWorker
 * @param threads - how many pages are worked on at a time; one a core where it is left out
 */
export function createPageCrew(workerFile: string, threads = availableParallelism()): PageCrew {
  letBuffersGo();
  const pool = new Piscina({
    filename: workerFile,
    maxThreads: threads,
    minThreads: 1,
    resourceLimits: { maxYoungGenerationSizeMb: YOUNG_GENERATION_MB },
  });
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
