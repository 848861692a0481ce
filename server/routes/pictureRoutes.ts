import { createHash } from 'node:crypto';
import { Router } from 'express';
import { PICTURE_SIZES, type PictureSize } from '../../contract/pictures';
import { FotoplanError } from '../../core/errors';
import type { BlobStore } from '../blobs/blobStore';
import type { FileChecks } from '../fileChecks/fileChecks';
import { ownerOf } from '../ownerSession';
import { bodyOf } from '../receiveBody';
import type { PictureRepository } from '../repositories/pictureRepository';
import type { UsageRepository } from '../repositories/usageRepository';
import { sendBlob } from '../sendBlob';
import type { UploadGate } from '../uploadGate';

export interface PictureServices {
  readonly pictures: PictureRepository;
  readonly usage: UsageRepository;
  readonly blobs: BlobStore;
  readonly fileChecks: FileChecks;
  readonly now: () => number;
  readonly gate: UploadGate;
}

const MAX_PDF_PAGE = 5000;

/** Thumbnails and previews of originals: they come before the original, so that other screens need not fetch it to show a board. */
export function pictureRoutes({ pictures, usage, blobs, fileChecks, now, gate }: PictureServices): Router {
  const router = Router();
  const sizeOf = (size: string): PictureSize => {
    if (!Object.hasOwn(PICTURE_SIZES, size))
      throw new FotoplanError('NOT_FOUND', `A picture is a ${Object.keys(PICTURE_SIZES).join(' or a ')}.`);
    return size as PictureSize;
  };
  const pageOf = (page: string): number => {
    const number = Number(page);
    if (!Number.isInteger(number) || number < 0 || number > MAX_PDF_PAGE)
      throw new FotoplanError('NOT_FOUND', 'A picture shows a page from 0 on.');
    return number;
  };
  router.put('/originals/:sha256/pictures/:page/:size', gate, async (req, res) => {
    const size = sizeOf(req.params.size);
    const page = pageOf(req.params.page);
    const { maxBytes, longSidePx } = PICTURE_SIZES[size];
    const bytes = await bodyOf(req, maxBytes);
    const { type, width, height } = await fileChecks.photo(bytes, size);
    if (type !== 'image/jpeg' || Math.max(width, height) > longSidePx)
      throw new FotoplanError('BODY_INVALID', `A ${size} is a JPEG of at most ${longSidePx} pixels.`);
    usage.refuseBeyondQuota(ownerOf(req), bytes.length);
    const sha256 = createHash('sha256').update(bytes).digest('hex');
    await blobs.put(sha256, bytes, now());
    pictures.add(ownerOf(req), req.params.sha256, page, size, sha256);
    res.status(204).end();
  });
  router.get('/originals/:sha256/pictures/:page/:size', async (req, res) => {
    const sha256 = pictures.find(ownerOf(req), req.params.sha256, pageOf(req.params.page), sizeOf(req.params.size));
    if (sha256 === null) throw new FotoplanError('NOT_FOUND', 'There is no such picture. Fetch the original.');
    res.set({ 'content-type': 'image/jpeg', 'cache-control': 'private, no-cache', etag: `"${sha256}"` });
    if (req.fresh) return void res.status(304).end();
    await sendBlob(res, blobs, sha256);
  });
  return router;
}
