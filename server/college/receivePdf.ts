import type { Request, RequestHandler } from 'express';
import multer from 'multer';
import { FotoplanError } from '../../core/errors';

/** Takes one PDF of a form into memory, no larger than the service allows. */
export function receivePdf(mostBytes: number, tooLarge: string): RequestHandler {
  const form = multer({
    storage: multer.memoryStorage(),
    limits: { fileSize: mostBytes, files: 1, fields: 12, fieldSize: 10_000 },
  }).single('file');
  return (req, res, next) =>
    void form(req, res, (error: unknown) => {
      if (error instanceof multer.MulterError && error.code === 'LIMIT_FILE_SIZE')
        return next(new FotoplanError('FILE_TOO_LARGE', tooLarge, {}, { cause: error }));
      if (error !== undefined && error !== null)
        return next(new FotoplanError('BODY_INVALID', 'Send one file, as a form.', {}, { cause: error }));
      next();
    });
}

/** @throws FotoplanError where no PDF came */
export function pdfOf(req: Request): Buffer {
  const bytes = (req as Request & { file?: { buffer: Buffer } }).file?.buffer;
  if (bytes === undefined)
    throw new FotoplanError('BODY_INVALID', 'No file came with it. Bind the pages and send the PDF itself.');
  if (bytes.subarray(0, 5).toString('latin1') !== '%PDF-')
    throw new FotoplanError('BODY_INVALID', 'Only a PDF is taken here. Bind the pages first.');
  return bytes;
}
