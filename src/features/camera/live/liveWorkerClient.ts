import { FotoplanError } from '../../../../core/errors';
import type { FromLiveWorker, SeenFrame, StillFrames, ToLiveWorker } from './liveWorkerProtocol';

export interface LiveWorkerClient {
  /** Looks at a frame, or drops it when the one before is still being looked at; frames never queue. */
  offer(frame: () => Promise<ImageBitmap>, atMs: number): Promise<SeenFrame | null>;
  /** Encodes frames at full size. */
  still(frames: readonly ImageBitmap[]): Promise<StillFrames>;
  /** Ends once the stills under way have come. */
  close(): void;
}

/** @param spawn - makes a worker; handed in so that tests can */
export function createLiveWorkerClient(spawn: () => Worker): LiveWorkerClient {
  let worker: Worker | null = null;
  let lastId = 0;
  let closing = false;
  let looking: ((seen: SeenFrame | null) => void) | null = null;
  const stills = new Map<number, { resolve: (still: StillFrames) => void; reject: (error: FotoplanError) => void }>();
  const lost = (): FotoplanError =>
    new FotoplanError(
      'WORKER_LOST',
      'The shot could not be kept: the device ran short of memory. Close other tabs and shoot again.',
    );

  const lose = (): void => {
    worker?.terminate();
    worker = null;
    looking?.(null);
    looking = null;
    for (const { reject } of stills.values()) reject(lost());
    stills.clear();
  };
  const receive = ({ data }: MessageEvent<FromLiveWorker>): void => {
    if (data.kind === 'frame' || (data.kind === 'failed' && data.id === null)) {
      const done = looking;
      looking = null;
      done?.(data.kind === 'frame' ? data : null);
      return;
    }
    const still = stills.get(data.id!);
    stills.delete(data.id!);
    if (data.kind === 'still') still?.resolve(data);
    else still?.reject(lost());
    if (closing && stills.size === 0) lose();
  };
  const current = (): Worker => {
    if (worker === null) {
      worker = spawn();
      worker.onmessage = receive;
      worker.onerror = lose;
    }
    return worker;
  };
  const send = (message: ToLiveWorker, transfer: Transferable[]): void => current().postMessage(message, transfer);
  return {
    async offer(frame, atMs) {
      if (looking !== null) return null;
      const seen = new Promise<SeenFrame | null>((resolve) => (looking = resolve));
      try {
        const bitmap = await frame();
        send({ kind: 'frame', frame: bitmap, atMs }, [bitmap]);
      } catch {
        // the camera gave no frame: the next one may come
        looking = null;
        return null;
      }
      return seen;
    },
    still: (frames) =>
      new Promise((resolve, reject) => {
        const id = ++lastId;
        stills.set(id, { resolve, reject });
        send({ kind: 'still', id, frames }, [...frames]);
      }),
    close: () => {
      closing = true;
      if (stills.size === 0) lose();
    },
  };
}
