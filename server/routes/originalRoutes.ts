import { Router, type Request } from 'express';
import { OriginalsBody } from '../../contract/originalsBody';
import type { KeptOriginalView, OriginalsView, UploadView } from '../../contract/views';
import { FotoplanError } from '../../core/errors';
import { PHOTO_LIMITS } from '../../core/work/photo/checkPhotoFile';
import type { BlobStore } from '../blobs/blobStore';
import type { FileChecks } from '../fileChecks/fileChecks';
import type { UploadGate } from '../uploadGate';
import { ownerOf } from '../ownerSession';
import { bodyOf, receiveBody } from '../receiveBody';
import type { OriginalRepository } from '../repositories/originalRepository';
import type { UploadRepository } from '../repositories/uploadRepository';
import type { UsageRepository } from '../repositories/usageRepository';
import { sendBlob } from '../sendBlob';
import { validated } from '../validated';
import { UPLOAD_PART_BYTES } from '../../contract/uploadParts';

export interface OriginalServices {
  readonly originals: OriginalRepository;
  readonly usage: UsageRepository;
  readonly uploads: UploadRepository;
  readonly blobs: BlobStore;
  readonly fileChecks: FileChecks;
  readonly now: () => number;
  readonly gate: UploadGate;
}

const ASKED_AT_ONCE = 16;
/** A browser keeps it and asks each time whether it still may show it: a screen that was cut off may not. */
const REVALIDATED = 'private, no-cache';
const SHA256 = /^[0-9a-f]{64}$/;

export function originalRoutes({ originals, usage, uploads, blobs, fileChecks, now, gate }: OriginalServices): Router {
  const router = Router();
  router.param('sha256', (_req, _res, next, sha256: string) => {
    if (!SHA256.test(sha256))
      throw new FotoplanError('BODY_INVALID', 'A photo is named by its SHA-256 in hexadecimal.');
    next();
  });
  const keep = async (req: Request, sha256: string, bytes: Uint8Array, uploadOf = ''): Promise<KeptOriginalView> => {
    const facts = await fileChecks.photo(bytes, 'photo');
    const size = bytes.length;
    usage.refuseBeyondQuota(ownerOf(req), size, uploadOf);
    await blobs.put(sha256, bytes, now());
    // whose it is may have changed meanwhile, by linking
    originals.add(ownerOf(req), sha256, facts);
    return { sha256, bytes: size, ...facts };
  };
  router.post('/originals', async (req, res) => {
    const ownerId = ownerOf(req);
    const listed = validated(OriginalsBody, req.body).ids.filter((id) => originals.type(ownerId, id) !== null);
    // a device may drop its own copy after this: it must be the bytes that are there, not their names
    const have: string[] = [];
    for (let i = 0; i < listed.length; i += ASKED_AT_ONCE) {
      const some = listed.slice(i, i + ASKED_AT_ONCE);
      const held = await Promise.all(some.map((id) => blobs.holds(id)));
      have.push(...some.filter((_, k) => held[k]));
    }
    res.json({ have } satisfies OriginalsView);
  });
  router.put('/originals/:sha256', gate, async (req, res) => {
    const bytes = await receiveBody(req, req.params.sha256, PHOTO_LIMITS.bytes);
    res.status(201).json(await keep(req, req.params.sha256, bytes));
  });
  router.get('/originals/:sha256/parts', (req, res) => {
    const view: UploadView = { parts: uploads.parts(ownerOf(req), req.params.sha256) };
    res.json(view);
  });
  router.put('/originals/:sha256/parts/:seq', gate, async (req, res) => {
    const seq = Number(req.params.seq);
    if (!Number.isInteger(seq) || seq < 0 || (seq + 1) * UPLOAD_PART_BYTES > PHOTO_LIMITS.bytes + UPLOAD_PART_BYTES)
      throw new FotoplanError(
        'PHOTO_TOO_LARGE',
        `A photo may have ${PHOTO_LIMITS.bytes / 1e6} MB at most. Save it smaller and add it again.`,
      );
    const bytes = await bodyOf(req, UPLOAD_PART_BYTES);
    usage.refuseBeyondQuota(ownerOf(req), bytes.length);
    await uploads.put(ownerOf(req), req.params.sha256, seq, bytes, now());
    res.status(204).end();
  });
  router.post('/originals/:sha256/done', gate, async (req, res) => {
    const ownerId = ownerOf(req);
    const { sha256 } = req.params;
    const { bytes, sha256: really } = await uploads.join(ownerId, sha256);
    try {
      if (originals.type(ownerId, sha256) !== null && bytes.length === 0)
        return void res.json({ sha256, bytes: blobs.size(sha256) } satisfies KeptOriginalView);
      if (really !== sha256)
        throw new FotoplanError('HASH_MISMATCH', 'The photo changed on its way. It is sent again by itself.');
      res.status(201).json(await keep(req, sha256, bytes, sha256));
    } finally {
      await uploads.drop(ownerId, sha256);
    }
  });
  router.get('/originals/:sha256', async (req, res) => {
    const type = originals.type(ownerOf(req), req.params.sha256);
    if (type === null) throw new FotoplanError('NOT_FOUND', 'This photo is not here. Add it again.');
    res.set({ 'content-type': type, 'cache-control': REVALIDATED, etag: `"${req.params.sha256}"` });
    if (req.fresh) return void res.status(304).end();
    await sendBlob(res, blobs, req.params.sha256);
  });
  return router;
}
