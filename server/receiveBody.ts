import { createHash } from 'node:crypto';
import type { Request } from 'express';
import { FotoplanError } from '../core/errors';

/**
 * Takes in a raw body as it streams, and stops reading as soon as it is too long.
 * @throws FotoplanError PHOTO_TOO_LARGE
 */
export async function bodyOf(req: Request, mostBytes: number): Promise<Buffer> {
  const tooLarge = (): FotoplanError =>
    new FotoplanError(
      'PHOTO_TOO_LARGE',
      `A file may have ${mostBytes / 1e6} MB at most. Save it smaller and send it again.`,
    );
  const length = Number(req.headers['content-length'] ?? NaN);
  if (length > mostBytes) throw tooLarge();
  // put in its place as it comes, so that it is not in memory twice
  const whole = Buffer.allocUnsafeSlow(Number.isNaN(length) ? 0 : length);
  const more: Buffer[] = [];
  let total = 0;
  for await (const part of req as AsyncIterable<Buffer>) {
    if (total + part.length > mostBytes) throw tooLarge();
    if (total + part.length <= whole.length) part.copy(whole, total);
    else more.push(part);
    total += part.length;
  }
  return more.length === 0 && total === whole.length ? whole : Buffer.concat([whole, ...more], total);
}

/**
 * Takes in a large body piece by piece; no more than a piece of it is in memory.
 * @param keep - gets pieces of exactly pieceBytes, but for the last
 * @returns how many bytes came
 * @throws FotoplanError FILE_TOO_LARGE, HASH_MISMATCH once all pieces were kept
 */
export async function receiveInPieces(
  req: Request,
  {
    sha256,
    mostBytes,
    pieceBytes,
  }: { readonly sha256: string; readonly mostBytes: number; readonly pieceBytes: number },
  keep: (piece: Buffer, seq: number) => Promise<void>,
): Promise<number> {
  const hash = createHash('sha256');
  let waiting: Buffer[] = [];
  let waitingBytes = 0;
  let total = 0;
  let seq = 0;
  const keepNext = async (bytes: number): Promise<void> => {
    const all = Buffer.concat(waiting, waitingBytes);
    const rest = all.subarray(bytes);
    waiting = rest.length === 0 ? [] : [rest];
    waitingBytes = rest.length;
    await keep(all.subarray(0, bytes), seq++);
  };
  for await (const part of req as AsyncIterable<Buffer>) {
    total += part.length;
    if (total > mostBytes)
      throw new FotoplanError(
        'FILE_TOO_LARGE',
        `A file may have ${mostBytes / 1e6} MB at most. Bind it under a limit.`,
      );
    hash.update(part);
    waiting.push(part);
    waitingBytes += part.length;
    while (waitingBytes >= pieceBytes) await keepNext(pieceBytes);
  }
  if (waitingBytes > 0) await keepNext(waitingBytes);
  if (hash.digest('hex') !== sha256) throw changedOnItsWay();
  return total;
}

const changedOnItsWay = (): FotoplanError =>
  new FotoplanError('HASH_MISMATCH', 'The file changed on its way. It is sent again by itself.');

/**
 * A body that must be what its name says.
 * @throws FotoplanError PHOTO_TOO_LARGE, HASH_MISMATCH
 */
export async function receiveBody(req: Request, expectedSha256: string, mostBytes: number): Promise<Buffer> {
  const bytes = await bodyOf(req, mostBytes);
  if (createHash('sha256').update(bytes).digest('hex') !== expectedSha256) throw changedOnItsWay();
  return bytes;
}
