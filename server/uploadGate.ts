import type { IncomingMessage, ServerResponse } from 'node:http';

/** As many large bodies at once as keep both cores busy; more would only keep small requests waiting. */
const AT_ONCE = 4;
/** In each such time so many bytes must come; a phone on the slowest line (64 kbit/s) sends eight times as many. */
const PATIENCE_MS = 10_000;
const LEAST_BYTES = 10_000;

export type UploadGate = (req: IncomingMessage, res: ServerResponse, next: () => void) => void;

/**
 * Lets only a few large bodies in at a time; the others wait at the door, unread, so that memory stays bounded and what is
 * small is answered at once, however many are uploading. Who stops sending, as a phone out of coverage does, is hung up on:
 * it would keep the others out.
 */
export function createUploadGate(patienceMs = PATIENCE_MS): UploadGate {
  let inside = 0;
  const waiting: (() => void)[] = [];
  return (req, res, next) => {
    const enter = (): void => {
      inside++;
      let before = req.socket.bytesRead;
      const watch = setInterval(() => {
        const { bytesRead } = req.socket;
        if (!req.complete && bytesRead - before < LEAST_BYTES) req.socket.destroy();
        before = bytesRead;
      }, patienceMs);
      res.once('close', () => {
        clearInterval(watch);
        inside--;
        waiting.shift()?.();
      });
      next();
    };
    if (inside < AT_ONCE) return enter();
    waiting.push(() => (res.destroyed ? waiting.shift()?.() : enter()));
  };
}
