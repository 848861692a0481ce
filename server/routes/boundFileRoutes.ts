import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { Router } from 'express';
import { BoundFileQuery } from '../../contract/boundFileQuery';
import { FotoplanError } from '../../core/errors';
import { ownerOf } from '../ownerSession';
import { receiveBody } from '../receiveBody';
import type { BlobRepository } from '../repositories/blobRepository';
import type { BoundFileRepository } from '../repositories/boundFileRepository';
import type { HandInRepository } from '../repositories/handInRepository';
import { validated } from '../validated';

const MOST_BYTES = 200_000_000;

export function boundFileRoutes(boundFiles: BoundFileRepository, handIns: HandInRepository, blobs: BlobRepository, now: () => number): Router {
  const router = Router();
  router.put('/hand-ins/:handInId/bound-files/:id', async (req, res) => {
    const { name, pages, sha256 } = validated(BoundFileQuery, { ...req.query });
    const ownerId = ownerOf(req);
    if (handIns.find(ownerId, req.params.handInId) === null) throw new FotoplanError('NOT_FOUND', 'This hand-in is not here. Go back to the desk and open it again.');
    const bytes = await receiveBody(req, sha256, MOST_BYTES);
    if (Buffer.from(bytes.subarray(0, 5)).toString('latin1') !== '%PDF-') throw new FotoplanError('BODY_INVALID', 'A bound file must be a PDF.');
    boundFiles.add(ownerId, req.params.handInId, { id: req.params.id, name, pages, sha256, boundAtMs: now() }, bytes);
    res.status(201).json(boundFiles.find(ownerId, req.params.id));
  });
  router.get('/hand-ins/:handInId/bound-files', (req, res) => {
    res.json({ files: boundFiles.list(ownerOf(req), req.params.handInId) });
  });
  router.get('/bound-files/:id', async (req, res) => {
    const file = boundFiles.find(ownerOf(req), req.params.id);
    if (file === null) throw new FotoplanError('NOT_FOUND', 'This file is not here. Bind the pages again.');
    res.attachment(file.name).type('application/pdf').set('content-length', String(file.bytes));
    await pipeline(Readable.from(blobs.read(file.sha256)), res);
  });
  return router;
}
