import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { Response } from 'express';
import { FotoplanError } from '../core/errors';
import type { BlobStore } from './blobs/blobStore';

/**
 * Answers with kept bytes; what else is told about them must be set before.
 * @throws FotoplanError NOT_FOUND where they are listed and not there, before anything was sent
 */
export async function sendBlob(res: Response, blobs: BlobStore, sha256: string): Promise<void> {
  const pieces = blobs.read(sha256)[Symbol.asyncIterator]();
  const first = await pieces.next();
  if (first.done === true) {
    for (const name of res.getHeaderNames())
      if (name.startsWith('content-') || name === 'cache-control') res.removeHeader(name);
    throw new FotoplanError(
      'NOT_FOUND',
      'The server has lost this file. It is put back when the device that has it sends it again.',
    );
  }
  res.set('content-length', String(blobs.size(sha256)));
  async function* all(): AsyncGenerator<Uint8Array> {
    yield first.value as Uint8Array;
    yield* { [Symbol.asyncIterator]: () => pieces };
  }
  await pipeline(Readable.from(all()), res);
}
