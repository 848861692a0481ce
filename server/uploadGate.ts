import type { IncomingMessage, ServerResponse } from 'node:http';

/** As many large bodies at once as keep both cores busy; more would only keep small requests waiting. */
const AT_ONCE = 4;
/** Who sends less than this in a second leaves the place to another, and goes on beside: such a line costs next to nothing. */
const LEAST_BYTES_A_SECOND = 60_000;
/** What is beside holds what it has sent in memory: as a whole it may grow to so much,. */
const MOST_BESIDE_BYTES = 64_000_000;
/** Who sends less than this in so many seconds is hung up on; a phone on the slowest line (64 kbit/s) sends eight times as many. */
const LEAST_BYTES = 10_000;
const PATIENCE_SECONDS = 10;
/** What does not say how long it will be counts as the longest that any door takes. */
const UNSAID_BYTES = 50_000_000;

export type UploadGate = (req: IncomingMessage, res: ServerResponse, next: () => void) => void;

/**
 * Lets only a few large bodies in at a time; the others wait at the door, unread, so that memory stays bounded and what is
 * small is answered at once, however many are uploading. Nobody keeps the others out by sending slowly; who stops sending, as a
 * phone out of coverage does, is hung up on.
 * @param secondMs - shorter in tests
 */
export function createUploadGate(secondMs = 1000): UploadGate {
  let inside = 0;
  let besideBytes = 0;
  const waiting: (() => void)[] = [];
  const letIn = (): void => waiting.shift()?.();
  return (req, res, next) => {
    const enter = (): void => {
      inside++;
      let isBeside = false;
      const length = Number(req.headers['content-length'] ?? UNSAID_BYTES);
      // bytes that had come by the end of each of the last seconds, oldest first
      const came = [req.socket.bytesRead];
      const watch = setInterval(() => {
        if (req.complete) return clearInterval(watch);
        came.push(req.socket.bytesRead);
        const inLastSecond = came.at(-1)! - came.at(-2)!;
        const isLong = came.length > PATIENCE_SECONDS;
        const inPatience = came.at(-1)! - (isLong ? came.shift()! : came[0]!);
        if (isLong && inPatience < LEAST_BYTES) return void req.socket.destroy();
        if (isBeside || waiting.length === 0 || inLastSecond >= LEAST_BYTES_A_SECOND) return;
        if (besideBytes + length <= MOST_BESIDE_BYTES) {
          isBeside = true;
          besideBytes += length;
          inside--;
          letIn();
        } else if (isLong && inPatience < PATIENCE_SECONDS * LEAST_BYTES_A_SECOND) req.socket.destroy();
      }, secondMs);
      res.once('close', () => {
        clearInterval(watch);
        if (isBeside) besideBytes -= length;
        else {
          inside--;
          letIn();
        }
      });
      next();
    };
    if (inside < AT_ONCE) return enter();
    waiting.push(() => (res.destroyed ? letIn() : enter()));
  };
}
