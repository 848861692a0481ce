import type { Response } from 'express';
import type { LiveEvent } from '../../contract/views';

/** A proxy drops a line on which nothing moves for a minute. */
const BEAT_MS = 20_000;

interface Listener {
  ownerId: string;
  readonly screenId: string;
  readonly res: Response;
}

export type LiveEvents = ReturnType<typeof createLiveEvents>;

/** Tells an owner's other screens what has changed, as server-sent events; what exactly, they ask for. */
export function createLiveEvents() {
  const listeners = new Set<Listener>();
  // a browser says the last id it got when it comes back; it is the number of the change, so what it missed is what came after
  const write = ({ res }: Listener, event: LiveEvent): void =>
    void res.write(`${'seq' in event ? `id: ${event.seq}\n` : ''}data: ${JSON.stringify(event)}\n\n`);
  const hangUpOn = (ownerId: string, screenId: string, event: LiveEvent): void => {
    for (const listener of listeners) {
      if (listener.ownerId !== ownerId || listener.screenId !== screenId) continue;
      write(listener, event);
      listeners.delete(listener);
      listener.res.end();
    }
  };
  return {
    /**
     * Keeps the answer open for as long as the other side does.
     * @param seq - the owner's latest change, by which the other side knows whether it missed something
     */
    open(ownerId: string, screenId: string, seq: number, res: Response): void {
      res
        .set({ 'content-type': 'text/event-stream', 'cache-control': 'no-store', 'x-accel-buffering': 'no' })
        .flushHeaders();
      const listener: Listener = { ownerId, screenId, res };
      listeners.add(listener);
      write(listener, { kind: 'open', seq });
      const beat = setInterval(() => res.write(': still here\n\n'), BEAT_MS);
      res.once('close', () => {
        clearInterval(beat);
        listeners.delete(listener);
      });
    },
    /** @param fromScreenId - the screen whose own doing it is: it knows already */
    publish(ownerId: string, event: LiveEvent, fromScreenId: string): void {
      for (const listener of listeners)
        if (listener.ownerId === ownerId && listener.screenId !== fromScreenId) write(listener, event);
    },
    /** Those who listened for one owner go on with another, whom they have joined. */
    move(fromOwnerId: string, toOwnerId: string): void {
      for (const listener of listeners) if (listener.ownerId === fromOwnerId) listener.ownerId = toOwnerId;
    },
    /** Tells one screen that its link was ended, and hangs up. */
    cutOff: (ownerId: string, screenId: string): void => hangUpOn(ownerId, screenId, { kind: 'cutOff' }),
    /** Tells one screen that it is by itself again, and hangs up; it comes back as its own person's. */
    left: (ownerId: string, screenId: string): void => hangUpOn(ownerId, screenId, { kind: 'left' }),
    /** Open answers must not hold a stopping server up. */
    close(): void {
      for (const { res } of listeners) res.end();
    },
  };
}
