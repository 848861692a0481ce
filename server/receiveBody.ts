import { createHash } from 'node:crypto';
import type { Request } from 'express';
import { FotoplanError } from '../core/errors';

/**
 * Takes in a raw body as it streams, hashing on the way, and stops reading as soon as it is too long.
 * @throws FotoplanError PHOTO_TOO_LARGE, HASH_MISMATCH
 */
export async function receiveBody(req: Request, expectedSha256: string, mostBytes: number): Promise<Uint8Array> {
  const tooLarge = (): FotoplanError => new FotoplanError('PHOTO_TOO_LARGE', `A file may have ${mostBytes / 1e6} MB at most. Save it smaller and send it again.`);
  if (Number(req.headers['content-length'] ?? 0) > mostBytes) throw tooLarge();
  const hash = createHash('sha256');
  const parts: Buffer[] = [];
  let total = 0;
  for await (const part of req as AsyncIterable<Buffer>) {
    total += part.length;
    if (total > mostBytes) throw tooLarge();
    hash.update(part);
    parts.push(part);
  }
  if (hash.digest('hex') !== expectedSha256) throw new FotoplanError('HASH_MISMATCH', 'The file changed on its way. It is sent again by itself.');
  return Buffer.concat(parts, total);
}
