import { createHash } from 'node:crypto';
import { Router } from 'express';
import { PICTURE_SIZES, type PictureSize } from '../../contract/pictures';
import { FotoplanError } from '../../core/errors';
import type { BlobStore } from '../blobs/blobStore';
import type { FileChecks } from '../fileChecks/fileChecks';
import { ownerOf } from '../ownerSession';
import { bodyOf } from '../receiveBody';
import type { OriginalRepository } from '../repositories/originalRepository';
import type { PictureRepository } from '../repositories/pictureRepository';
import { sendBlob } from '../sendBlob';
import type { UploadGate } from '../uploadGate';

export interface PictureServices {
  readonly pictures: PictureRepository;
  readonly originals: OriginalRepository;
  readonly blobs: BlobStore;
  readonly fileChecks: FileChecks;
  readonly now: () => number;
  readonly quotaBytes: number;
  readonly gate: UploadGate;
}

const MAX_PDF_PAGE = 5000;

/** Thumbnails and previews of originals: they come before the original, so that other screens need not fetch it to show a board. */
export function pictureRoutes({ pictures, originals, blobs, fileChecks, now, quotaBytes, gate }: PictureServices): Router {
  const router = Router();
  const sizeOf = (size: string): PictureSize => {
    if (!Object.hasOwn(PICTURE_SIZES, size)) throw new FotoplanError('NOT_FOUND', `A picture is a ${Object.keys(PICTURE_SIZES).join(' or a ')}.`);
    return size as PictureSize;
  };
  const pageOf = (page: string): number => {
    const number = Number(page);
    if (!Number.isInteger(number) || number < 0 || number > MAX_PDF_PAGE) throw new FotoplanError('NOT_FOUND', 'A picture shows a page from 0 on.');
    return number;
  };
  router.put('/originals/:sha256/pictures/:page/:size', gate, async (req, res) => {
    const ownerId = ownerOf(req);
    const size = sizeOf(req.params.size);
    const page = pageOf(req.params.page);
    const { maxBytes, longSidePx } = PICTURE_SIZES[size];
    const bytes = await bodyOf(req, maxBytes);
    const { type, width, height } = await fileChecks.photo(bytes, size);
    if (type !== 'image/jpeg' || Math.max(width, height) > longSidePx) throw new FotoplanError('BODY_INVALID', `A ${size} is a JPEG of at most ${longSidePx} pixels.`);
    if (originals.bytes(ownerId) + pictures.bytes(ownerId) + bytes.length > quotaBytes) throw new FotoplanError('QUOTA_FULL', `Your ${quotaBytes / 1e9} GB here are full. Export old hand-ins as a zip, then delete them.`);
    const sha256 = createHash('sha256').update(bytes).digest('hex');
    await blobs.put(sha256, bytes, now());
    pictures.add(ownerId, req.params.sha256, page, size, sha256);
    res.status(204).end();
  });
  router.get('/originals/:sha256/pictures/:page/:size', async (req, res) => {
    const sha256 = pictures.find(ownerOf(req), req.params.sha256, pageOf(req.params.page), sizeOf(req.params.size));
    if (sha256 === null) throw new FotoplanError('NOT_FOUND', 'There is no such picture. Fetch the original.');
    res.set({ 'content-type': 'image/jpeg', 'cache-control': 'private, max-age=31536000, immutable' });
    await sendBlob(res, blobs, sha256);
  });
  return router;
}
