import { inflateSync } from 'node:zlib';
import { FotoplanError } from '../../core/errors';

/** What a PDF's lists of objects may unpack to together; a thousand pages of photos have some hundred kB of them. */
const MOST_UNPACKED_BYTES = 40_000_000;
const MOST_OBJECTS = 300_000;
/** The dictionary of a stream stands just before it. */
const LOOKS_BACK = 2000;

/**
 * Refuses a PDF that would take much memory or long to open, before it is opened: opening one unpacks its object streams and
 * cross-reference streams (ISO 32000-1, 7.5.7 and 7.5.8) and makes an object of each thing in them.
 * @throws FotoplanError PDF_UNREADABLE
 */
export function refuseHeavyPdf(bytes: Uint8Array): void {
  const file = Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const tooHeavy = (cause?: unknown): FotoplanError =>
    new FotoplanError(
      'PDF_UNREADABLE',
      'This PDF unpacks to far more than its pages need. Print it to a new PDF and hand that in.',
      {},
      { cause },
    );
  let left = MOST_UNPACKED_BYTES;
  let objects = 0;
  for (let at = file.indexOf(' obj'); at >= 0; at = file.indexOf(' obj', at + 4))
    if (++objects > MOST_OBJECTS) throw tooHeavy();
  for (let at = file.indexOf('stream'); at >= 0; at = file.indexOf('stream', at + 6)) {
    if (file.toString('latin1', at - 3, at) === 'end') continue;
    const before = file.toString('latin1', Math.max(0, at - LOOKS_BACK), at);
    const dictionary = before.slice(Math.max(0, before.lastIndexOf(' obj')));
    if (!/\/(ObjStm|XRef)\b/.test(dictionary)) continue;
    objects += Number(/\/N\s+(\d+)/.exec(dictionary)?.[1] ?? 0);
    if (objects > MOST_OBJECTS) throw tooHeavy();
    const from = at + 6 + (file[at + 6] === 0x0d ? 1 : 0) + 1;
    try {
      left -= inflateSync(file.subarray(from), { maxOutputLength: Math.max(1, left) }).length;
    } catch (error) {
      if ((error as { code?: string }).code === 'ERR_BUFFER_TOO_LARGE') throw tooHeavy(error);
      // not packed this way, or damaged: opening it tells
    }
  }
}
