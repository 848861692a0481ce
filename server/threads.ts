import { setFlagsFromString } from 'node:v8';
import { runInNewContext } from 'node:vm';

/**
 * What can cross to another thread without being copied: bytes that fill their buffer. They are gone from here then; copies would
 * wait in each thread for its garbage collector.
 */
export const movable = (bytes: unknown): ArrayBuffer[] =>
  bytes instanceof Uint8Array && bytes.buffer instanceof ArrayBuffer && bytes.byteLength === bytes.buffer.byteLength
    ? [bytes.buffer]
    : [];

/** What a thread may fill before V8 looks through it for garbage; V8 itself would let each have 48 MB. */
export const YOUNG_MB = 6;

const COLLECT_EVERY_BYTES = 8_000_000;

/**
 * For a thread that does little but with megabytes: its small heap gives V8 no reason to collect garbage, so the bytes it is done with
 * would pile up for hundreds of megabytes. A collection takes it some milliseconds.
 * @returns call it with what is done with
 */
export function createCollector(): (bytes: number) => void {
  setFlagsFromString('--expose-gc');
  const collect = runInNewContext('gc') as () => void;
  let done = 0;
  return (bytes) => {
    done += bytes;
    if (done < COLLECT_EVERY_BYTES) return;
    done = 0;
    collect();
  };
}
