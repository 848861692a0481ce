import type { Request, RequestHandler } from 'express';
import multer from 'multer';
import { FotoplanError } from '../../core/errors';

/** Nothing larger is read at all; what an assignment allows is said in words. */
const MOST_BYTES = 60_000_000;
const KEPT_MS = 30 * 60_000;
/** All that has broken off together; beyond that, what is oldest must be sent again whole. */
const MOST_KEPT_BYTES = 250_000_000;

interface Upload {
  parts: Buffer[];
  bytes: number;
  atMs: number;
}

/**
 * Files that come as forms, kept as they arrive: where the line breaks, what came before is still here, and the rest is sent
 * from that byte on. The form's key and offset stand before its file.
 */
export function createResumableUploads(now: () => number) {
  const uploads = new Map<string, Upload>();
  const nameOf = (accountId: string, key: string): string => `${accountId} ${key}`;
  const forget = (): void => {
    for (const [name, { atMs }] of uploads) if (now() - atMs > KEPT_MS) uploads.delete(name);
    let bytes = [...uploads.values()].reduce((sum, upload) => sum + upload.bytes, 0);
    // the first in the map came first
    for (const [name, upload] of uploads) {
      if (bytes <= MOST_KEPT_BYTES) return;
      uploads.delete(name);
      bytes -= upload.bytes;
    }
  };
  return {
    received: (accountId: string, key: string): number => uploads.get(nameOf(accountId, key))?.bytes ?? 0,
    /** @param breaking - stop keeping after the first piece, as if the rest had been lost */
    receive(accountId: string, breaking: boolean): RequestHandler {
      const storage: multer.StorageEngine = {
        _handleFile(req: Request, file, done) {
          const { key, offset } = req.body as { key?: unknown; offset?: unknown };
          if (typeof key !== 'string')
            return done(new FotoplanError('BODY_INVALID', 'The key must stand before the file.'));
          const name = nameOf(accountId, key);
          const from = Number(offset ?? 0);
          const known = uploads.get(name);
          if (from !== 0 && from !== known?.bytes)
            return done(
              new FotoplanError(
                'BODY_INVALID',
                'The file was not sent from where it broke off. It is sent again by itself.',
              ),
            );
          const upload: Upload = from === 0 || known === undefined ? { parts: [], bytes: 0, atMs: now() } : known;
          uploads.set(name, upload);
          let isTooLarge = false;
          file.stream.on('data', (part: Buffer) => {
            if (breaking && upload.bytes > 0) return;
            // one file, however often it is begun
            if (upload.bytes + part.length > MOST_BYTES) {
              isTooLarge = true;
              return;
            }
            upload.parts.push(part);
            upload.bytes += part.length;
            upload.atMs = now();
          });
          file.stream.once('error', done);
          file.stream.once('end', () => {
            if (isTooLarge) uploads.delete(name);
            if (isTooLarge)
              done(
                new FotoplanError(
                  'FILE_TOO_LARGE',
                  `A file may have ${MOST_BYTES / 1e6} MB at most. Bind it under a limit.`,
                ),
              );
            else if (!breaking) done(null, { size: upload.bytes });
          });
        },
        _removeFile: (_req, _file, done) => done(null),
      };
      const form = multer({
        storage,
        limits: { fileSize: MOST_BYTES, files: 1, fields: 12, fieldSize: 10_000 },
      }).single('file');
      return (req, res, next) => {
        forget();
        return void form(req, res, (error: unknown) =>
          next(
            error === undefined || error === null || error instanceof FotoplanError
              ? error
              : new FotoplanError(
                  'BODY_INVALID',
                  `The file could not be taken: at most ${MOST_BYTES / 1e6} MB, one file, as a form.`,
                  {},
                  { cause: error },
                ),
          ),
        );
      };
    },
    /** @throws FotoplanError where nothing came */
    whole(accountId: string, key: string): Buffer {
      const upload = uploads.get(nameOf(accountId, key));
      if (upload === undefined)
        throw new FotoplanError('BODY_INVALID', 'No file came with it. Choose the PDF and hand it in again.');
      return Buffer.concat(upload.parts, upload.bytes);
    },
    drop: (accountId: string, key: string): void => void uploads.delete(nameOf(accountId, key)),
  };
}
