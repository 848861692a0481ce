import type { Response } from 'express';
import type { LiveEvent } from '../../contract/views';

/** A proxy drops a line on which nothing moves for a minute. */
const BEAT_MS = 20_000;

export type LiveEvents = ReturnType<typeof createLiveEvents>;

/** Tells an owner's other screens what has changed, as server-sent events; what exactly, they ask for. */
export function createLiveEvents() {
  const listeners = new Map<string, Map<Response, string>>();
  const write = (res: Response, event: LiveEvent): void => void res.write(`data: ${JSON.stringify(event)}\n\n`);
  return {
    /** Keeps the answer open for as long as the other side does. */
    open(ownerId: string, screenId: string, res: Response): void {
      res.set({ 'content-type': 'text/event-stream', 'cache-control': 'no-store', 'x-accel-buffering': 'no' }).flushHeaders();
      write(res, { kind: 'open' });
      const own = listeners.get(ownerId) ?? new Map<Response, string>();
      own.set(res, screenId);
      listeners.set(ownerId, own);
      const beat = setInterval(() => res.write(': still here\n\n'), BEAT_MS);
      res.once('close', () => {
        clearInterval(beat);
        own.delete(res);
        if (own.size === 0) listeners.delete(ownerId);
      });
    },
    publish(ownerId: string, event: LiveEvent): void {
      for (const res of listeners.get(ownerId)?.keys() ?? []) write(res, event);
    },
    /** Says so to one screen, and hangs up. */
    cutOff(ownerId: string, screenId: string): void {
      for (const [res, id] of listeners.get(ownerId) ?? []) {
        if (id !== screenId) continue;
        write(res, { kind: 'cutOff' });
        listeners.get(ownerId)?.delete(res);
        res.end();
      }
    },
    /** Open answers must not hold a stopping server up. */
    close(): void {
      for (const own of listeners.values()) for (const res of own.keys()) res.end();
    },
  };
}
