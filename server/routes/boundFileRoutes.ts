import { randomUUID } from 'node:crypto';
import { Router } from 'express';
import { BoundFileQuery } from '../../contract/boundFileQuery';
import type { BoundFileFacts, BoundFilesView } from '../../contract/views';
import { FotoplanError } from '../../core/errors';
import type { BlobStore } from '../blobs/blobStore';
import { CHUNK_BYTES } from '../blobs/bytesWork';
import type { LiveEvents } from '../events/liveEvents';
import type { UploadGate } from '../uploadGate';
import { ownerOf, screenOf } from '../ownerSession';
import { receiveInPieces } from '../receiveBody';
import type { ChangeRepository } from '../repositories/changeRepository';
import type { BoundFileRepository } from '../repositories/boundFileRepository';
import type { HandInRepository } from '../repositories/handInRepository';
import type { UploadRepository } from '../repositories/uploadRepository';
import type { UsageRepository } from '../repositories/usageRepository';
import { sendBlob } from '../sendBlob';
import { validated } from '../validated';

const MOST_BYTES = 200_000_000;

export interface BoundFileServices {
  readonly boundFiles: BoundFileRepository;
  readonly handIns: HandInRepository;
  readonly usage: UsageRepository;
  readonly uploads: UploadRepository;
  readonly blobs: BlobStore;
  readonly changes: ChangeRepository;
  readonly events: LiveEvents;
  readonly now: () => number;
  readonly gate: UploadGate;
}

export function boundFileRoutes({
  boundFiles,
  handIns,
  usage,
  uploads,
  blobs,
  changes,
  events,
  now,
  gate,
}: BoundFileServices): Router {
  const router = Router();
  const notHere = (): FotoplanError =>
    new FotoplanError('NOT_FOUND', 'This hand-in is not here. Go back to the desk and open it again.');
  router.put('/hand-ins/:handInId/bound-files/:id', gate, async (req, res) => {
    const { name, pages, sha256, facts } = validated(BoundFileQuery, { ...req.query });
    const ownerId = ownerOf(req);
    if (!/^[\w-]{8,40}$/.test(req.params.id))
      throw new FotoplanError('BODY_INVALID', 'A bound file needs an id of its own.');
    if (handIns.find(ownerId, req.params.handInId) === null) throw notHere();
    usage.refuseBeyondQuota(ownerId, Number(req.headers['content-length'] ?? 0));
    const upload = `file ${randomUUID()}`;
    try {
      const bytes = await receiveInPieces(
        req,
        { sha256, mostBytes: MOST_BYTES, pieceBytes: CHUNK_BYTES },
        async (piece, seq) => {
          if (seq === 0 && piece.subarray(0, 5).toString('latin1') !== '%PDF-')
            throw new FotoplanError('BODY_INVALID', 'A bound file must be a PDF.');
          usage.refuseBeyondQuota(ownerId, piece.length);
          await uploads.put(ownerId, upload, seq, piece, now());
        },
      );
      await blobs.putPieces(sha256, bytes, () => uploads.pieces(ownerId, upload), now());
    } finally {
      await uploads.drop(ownerId, upload);
    }
    boundFiles.add(ownerId, req.params.handInId, {
      id: req.params.id,
      name,
      pages,
      sha256,
      boundAtMs: now(),
      facts: readFacts(facts),
    });
    const view = boundFiles.find(ownerId, req.params.id);
    if (view === null) throw notHere();
    events.publish(
      ownerId,
      { kind: 'changed', seq: changes.note(ownerId, 'boundFile', req.params.handInId) },
      screenOf(req),
    );
    res.status(201).json(view);
  });
  router.get('/hand-ins/:handInId/bound-files', (req, res) => {
    const ownerId = ownerOf(req);
    if (handIns.find(ownerId, req.params.handInId) === null) throw notHere();
    res.json({ files: boundFiles.list(ownerId, req.params.handInId) } satisfies BoundFilesView);
  });
  router.get('/bound-files/:id', async (req, res) => {
    const file = boundFiles.find(ownerOf(req), req.params.id);
    if (file === null) throw new FotoplanError('NOT_FOUND', 'This file is not here. Bind the pages again.');
    res.attachment(file.name).type('application/pdf');
    await sendBlob(res, blobs, file.sha256);
  });
  return router;
}

function readFacts(text: string | undefined): Partial<BoundFileFacts> {
  if (text === undefined) return {};
  try {
    const { madeFrom, pageBytes, codings } = JSON.parse(text) as Partial<BoundFileFacts>;
    const areNumbers = (list: unknown): list is number[] =>
      Array.isArray(list) && list.every((n) => Number.isInteger(n) && n >= 0);
    if (typeof madeFrom === 'string' && /^[0-9a-f]{64}$/.test(madeFrom) && areNumbers(pageBytes) && areNumbers(codings))
      return { madeFrom, pageBytes, codings };
  } catch {
    // said below
  }
  throw new FotoplanError('BODY_INVALID', 'facts must tell madeFrom, pageBytes and codings as JSON.');
}
