import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { Router } from 'express';
import { OriginalsBody } from '../../contract/originalsBody';
import type { OriginalsView, UploadView } from '../../contract/views';
import { FotoplanError } from '../../core/errors';
import { checkPhotoFile, PHOTO_LIMITS } from '../../core/photo/checkPhotoFile';
import type { BlobStore } from '../blobs/blobStore';
import type { UploadGate } from '../uploadGate';
import { ownerOf } from '../ownerSession';
import { bodyOf, receiveBody } from '../receiveBody';
import type { OriginalRepository } from '../repositories/originalRepository';
import type { UploadRepository } from '../repositories/uploadRepository';
import type { PictureRepository } from '../repositories/pictureRepository';
import { validated } from '../validated';
import { UPLOAD_PART_BYTES } from '../../contract/uploadParts';

export interface OriginalServices {
  readonly originals: OriginalRepository;
  readonly pictures: PictureRepository;
  readonly uploads: UploadRepository;
  readonly blobs: BlobStore;
  readonly now: () => number;
  readonly quotaBytes: number;
  readonly gate: UploadGate;
}

const SHA256 = /^[0-9a-f]{64}$/;

export function originalRoutes({ originals, pictures, uploads, blobs, now, quotaBytes, gate }: OriginalServices): Router {
  const router = Router();
  router.param('sha256', (_req, _res, next, sha256: string) => {
    if (!SHA256.test(sha256)) throw new FotoplanError('BODY_INVALID', 'A photo is named by its SHA-256 in hexadecimal.');
    next();
  });
  const keep = async (ownerId: string, sha256: string, bytes: Uint8Array) => {
    const facts = checkPhotoFile(bytes, 'photo');
    if (originals.bytes(ownerId) + pictures.bytes(ownerId) + bytes.length > quotaBytes) throw new FotoplanError('QUOTA_FULL', `Your ${quotaBytes / 1e9} GB here are full. Export old hand-ins as a zip, then delete them.`);
    await blobs.put(sha256, bytes, now());
    originals.add(ownerId, sha256, facts);
    return { sha256, bytes: bytes.length, ...facts };
  };
  router.post('/originals', (req, res) => {
    const ownerId = ownerOf(req);
    const view: OriginalsView = { have: validated(OriginalsBody, req.body).ids.filter((id) => originals.type(ownerId, id) !== null && blobs.size(id) > 0) };
    res.json(view);
  });
  router.put('/originals/:sha256', gate, async (req, res) => {
    const bytes = await receiveBody(req, req.params.sha256, PHOTO_LIMITS.bytes);
    res.status(201).json(await keep(ownerOf(req), req.params.sha256, bytes));
  });
  router.get('/originals/:sha256/parts', (req, res) => {
    const view: UploadView = { parts: uploads.parts(ownerOf(req), req.params.sha256) };
    res.json(view);
  });
  router.put('/originals/:sha256/parts/:seq', gate, async (req, res) => {
    const seq = Number(req.params.seq);
    if (!Number.isInteger(seq) || seq < 0 || (seq + 1) * UPLOAD_PART_BYTES > PHOTO_LIMITS.bytes + UPLOAD_PART_BYTES) throw new FotoplanError('PHOTO_TOO_LARGE', `A photo may have ${PHOTO_LIMITS.bytes / 1e6} MB at most. Save it smaller and add it again.`);
    await uploads.put(ownerOf(req), req.params.sha256, seq, await bodyOf(req, UPLOAD_PART_BYTES), now());
    res.status(204).end();
  });
  router.post('/originals/:sha256/done', gate, async (req, res) => {
    const ownerId = ownerOf(req);
    const { sha256 } = req.params;
    const { bytes, sha256: really } = await uploads.join(ownerId, sha256);
    try {
      if (originals.type(ownerId, sha256) !== null && bytes.length === 0) return void res.json({ sha256, bytes: blobs.size(sha256) });
      if (really !== sha256) throw new FotoplanError('HASH_MISMATCH', 'The photo changed on its way. It is sent again by itself.');
      res.status(201).json(await keep(ownerId, sha256, bytes));
    } finally {
      await uploads.drop(ownerId, sha256);
    }
  });
  router.get('/originals/:sha256', async (req, res) => {
    const type = originals.type(ownerOf(req), req.params.sha256);
    if (type === null) throw new FotoplanError('NOT_FOUND', 'This photo is not here. Add it again.');
    res.set({ 'content-type': type, 'content-length': String(blobs.size(req.params.sha256)), 'cache-control': 'private, max-age=31536000, immutable' });
    await pipeline(Readable.from(blobs.read(req.params.sha256)), res);
  });
  return router;
}
