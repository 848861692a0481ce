import type { RequestHandler } from 'express';
import { FotoplanError } from '../core/errors';
import { ownHost } from './publicAddress';

const READS = new Set(['GET', 'HEAD', 'OPTIONS']);

/** What changes something must come from our own pages: beside the cookies' SameSite, so that neither alone has to hold. */
export const sameOrigin: RequestHandler = (req, _res, next) => {
  const origin = req.get('origin');
  const elsewhere = origin !== undefined && (!URL.canParse(origin) || new URL(origin).host !== ownHost(req));
  if (!READS.has(req.method) && (elsewhere || req.get('sec-fetch-site') === 'cross-site'))
    throw new FotoplanError('BODY_INVALID', 'This came from another site. Open Fotoplan and do it there.');
  next();
};
