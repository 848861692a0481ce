import type { ErrorRequestHandler } from 'express';
import type { Logger } from 'pino';
import { isDiskFull } from './database';
import { FotoplanError, type ErrorCode } from '../core/errors';

/** The one table from what went wrong to an HTTP status; what is not named is the sender's mistake. */
const STATUS: Partial<Record<ErrorCode, number>> = {
  NOT_FOUND: 404,
  ORIGINAL_MISSING: 409,
  HASH_MISMATCH: 422,
  PHOTO_TOO_LARGE: 413,
  NOT_SIGNED_IN: 401,
  SCREEN_CUT_OFF: 401,
  LINK_CODE_WRONG: 403,
  RECOVERY_CODE_WRONG: 403,
  QUOTA_FULL: 413,
  SERVER_FULL: 507,
  STORE_UNREACHABLE: 503,
  SIGN_IN_WRONG: 403,
  TOO_MANY_TRIES: 429,
  OFFICE_BUSY: 503,
  NAME_TAKEN: 409,
  FILE_TOO_LARGE: 413,
  INTERNAL: 500,
};

/** Answers every failure as {code, message}, with facts where there are any; the stack goes to the log, never to the sender. */
export function errorShape(log: Logger): ErrorRequestHandler {
  return (cause: unknown, req, res, next) => {
    if (res.headersSent) return next(cause);
    const thrown = isDiskFull(cause)
      ? new FotoplanError(
          'SERVER_FULL',
          'The server has no room left, so this could not be kept there. It stays on this device and is sent again by itself.',
          {},
          { cause },
        )
      : cause;
    if (thrown instanceof FotoplanError) {
      const { retryAfterS } = thrown.facts;
      if (retryAfterS !== undefined) res.set('retry-after', String(retryAfterS));
      const facts = Object.keys(thrown.facts).length > 0 ? { facts: thrown.facts } : {};
      const status = STATUS[thrown.code] ?? 400;
      // what an operator can mend
      if (status >= 500 && thrown.cause !== undefined)
        log.warn({ err: thrown.cause, code: thrown.code }, thrown.message);
      res.status(status).json({ code: thrown.code, message: thrown.message, ...facts });
      return;
    }
    // express's own parsers mark what the sender did wrong with a status below 500
    const status = (thrown as { status?: unknown } | null)?.status;
    if (typeof status === 'number' && status >= 400 && status < 500) {
      const message =
        status === 413
          ? 'That is too large to take in one request.'
          : 'The request could not be read. Send well-formed JSON.';
      res.status(status).json({ code: 'BODY_INVALID', message });
      return;
    }
    // the sender has gone, or was hung up on: there is nobody to answer
    if (req.destroyed) return void res.destroy();
    log.error({ err: thrown, method: req.method, route: req.path.split('/').slice(0, 3).join('/') }, 'request failed');
    res.status(500).json({
      code: 'INTERNAL',
      message: 'Something broke here, not at your end. Nothing you made is lost; try again.',
    });
  };
}
