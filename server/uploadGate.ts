import type { IncomingMessage, ServerResponse } from 'node:http';

/** As many large bodies at once as keep both cores busy; more would only keep small requests waiting. */
const AT_ONCE = 4;

export type UploadGate = (req: IncomingMessage, res: ServerResponse, next: () => void) => void;

/**
 * Lets only a few large bodies in at a time; the others wait at the door, unread, so that memory stays bounded and what is
 * small is answered at once, however many are uploading.
 */
export function createUploadGate(): UploadGate {
  let inside = 0;
  const waiting: (() => void)[] = [];
  return (_req, res, next) => {
    const enter = (): void => {
      inside++;
      res.once('close', () => {
        inside--;
        waiting.shift()?.();
      });
      next();
    };
    if (inside < AT_ONCE) return enter();
    waiting.push(() => (res.destroyed ? waiting.shift()?.() : enter()));
  };
}
