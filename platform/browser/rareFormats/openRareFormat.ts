import { FotoplanError, fromWireError } from '../../../core/errors';
import type { PixelImage } from '../../../core/imaging/raster/pixelImage';
import type { RareReply, RareRequest } from './protocol';

let worker: Worker | null = null;
let lastId = 0;
const waiting = new Map<number, { resolve: (image: PixelImage) => void; reject: (error: FotoplanError) => void }>();

function lose(): void {
  worker?.terminate();
  worker = null;
  for (const { reject } of waiting.values())
    reject(
      new FotoplanError(
        'WORKER_LOST',
        'This file could not be opened here: the device ran short of memory, or the connection broke. Try again, or save it as a JPEG.',
      ),
    );
  waiting.clear();
}

function running(): Worker {
  if (worker === null) {
    worker = new Worker('/workers/rareFormats.mjs', { type: 'module' });
    worker.onerror = lose;
    worker.onmessage = ({ data }: MessageEvent<RareReply>) => {
      const asked = waiting.get(data.id);
      waiting.delete(data.id);
      if (data.ok) asked?.resolve(data.image);
      else asked?.reject(fromWireError(data.error));
    };
  }
  return worker;
}

/**
 * Decodes HEIC, JPEG XL, TIFF or a page of a PDF upright, in a worker that is fetched the first time. The bytes are the caller's no longer.
 * @throws FotoplanError PDF_UNREADABLE, INTERNAL or WORKER_LOST
 */
export function openRareFormat(
  type: RareRequest['type'],
  bytes: Uint8Array<ArrayBuffer>,
  fileName: string,
  pdfPage: number | null,
): Promise<PixelImage> {
  return new Promise((resolve, reject) => {
    const request: RareRequest = { id: ++lastId, type, bytes, fileName, pdfPage: pdfPage ?? 0 };
    waiting.set(request.id, { resolve, reject });
    running().postMessage(request, [bytes.buffer]);
  });
}
