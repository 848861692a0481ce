import { createHash } from 'node:crypto';
import type { Request } from 'express';
import { FotoplanError } from '../core/errors';

/**
 * Takes in a raw body as it streams, and stops reading as soon as it is too long.
 * @throws FotoplanError PHOTO_TOO_LARGE
 */
export async function bodyOf(req: Request, mostBytes: number): Promise<Buffer> {
  const tooLarge = (): FotoplanError => new FotoplanError('PHOTO_TOO_LARGE', `A file may have ${mostBytes / 1e6} MB at most. Save it smaller and send it again.`);
  if (Number(req.headers['content-length'] ?? 0) > mostBytes) throw tooLarge();
  const parts: Buffer[] = [];
  let total = 0;
  for await (const part of req as AsyncIterable<Buffer>) {
    total += part.length;
    if (total > mostBytes) throw tooLarge();
    parts.push(part);
  }
  return Buffer.concat(parts, total);
}

/**
 * A body that must be what its name says.
 * @throws FotoplanError PHOTO_TOO_LARGE, HASH_MISMATCH
 */
export async function receiveBody(req: Request, expectedSha256: string, mostBytes: number): Promise<Buffer> {
  const bytes = await bodyOf(req, mostBytes);
  if (createHash('sha256').update(bytes).digest('hex') !== expectedSha256) throw new FotoplanError('HASH_MISMATCH', 'The file changed on its way. It is sent again by itself.');
  return bytes;
}
