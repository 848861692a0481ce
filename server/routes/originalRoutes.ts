import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { Router } from 'express';
import { FotoplanError } from '../../core/errors';
import { checkPhotoFile, PHOTO_LIMITS } from '../../core/photo/checkPhotoFile';
import { ownerOf } from '../ownerSession';
import { receiveBody } from '../receiveBody';
import type { BlobRepository } from '../repositories/blobRepository';
import type { OriginalRepository } from '../repositories/originalRepository';

export function originalRoutes(originals: OriginalRepository, blobs: BlobRepository): Router {
  const router = Router();
  router.put('/originals/:sha256', async (req, res) => {
    const bytes = await receiveBody(req, req.params.sha256, PHOTO_LIMITS.bytes);
    const facts = checkPhotoFile(bytes, 'photo');
    originals.add(ownerOf(req), req.params.sha256, bytes, facts);
    res.status(201).json({ sha256: req.params.sha256, bytes: bytes.length, ...facts });
  });
  router.get('/originals/:sha256', async (req, res) => {
    const type = originals.type(ownerOf(req), req.params.sha256);
    if (type === null) throw new FotoplanError('NOT_FOUND', 'This photo is not here. Add it again.');
    res.set({ 'content-type': type, 'content-length': String(blobs.size(req.params.sha256)), 'cache-control': 'private, max-age=31536000, immutable' });
    await pipeline(Readable.from(blobs.read(req.params.sha256)), res);
  });
  return router;
}
