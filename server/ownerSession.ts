import { createHash, randomBytes, randomUUID } from 'node:crypto';
import type { Request, RequestHandler } from 'express';
import { DEVICE_HEADER } from '../contract/deviceHeader';
import type { OwnerRepository } from './repositories/ownerRepository';

const COOKIE = 'fotoplan_owner';
const YEAR_MS = 365 * 24 * 3600 * 1000;
const owners = new WeakMap<Request, string>();

/** The owner this request acts for. */
export function ownerOf(req: Request): string {
  const id = owners.get(req);
  if (id === undefined) throw new Error('ownerOf before the session middleware');
  return id;
}

/**
 * Gives every browser an owner of its own by an httpOnly cookie. Only the token's hash is stored. Browsers write cookies to
 * disk seconds late: one that dies before that is known again by the key that it keeps beside its pages.
 * @param welcome - called with a new owner's id, for the demo's data
 */
export function ownerSession(repository: OwnerRepository, now: () => number, welcome: (ownerId: string) => void): RequestHandler {
  return (req, res, next) => {
    const cookies = req.cookies as Record<string, string | undefined>;
    const device = deviceKeyOf(req);
    const token = cookies[COOKIE];
    const byCookie = typeof token === 'string' ? repository.idByToken(sha256(token)) : null;
    if (byCookie !== null) {
      owners.set(req, byCookie);
      return next();
    }
    const give = (value: string): void => void res.cookie(COOKIE, value, { httpOnly: true, sameSite: 'strict', secure: req.secure, maxAge: YEAR_MS, path: '/' });
    const byDevice = device === null ? null : repository.idByToken(sha256(device));
    if (device !== null && byDevice !== null) {
      give(device);
      owners.set(req, byDevice);
      return next();
    }
    const fresh = device ?? randomBytes(32).toString('base64url');
    const id = randomUUID();
    repository.add(id, sha256(fresh), now());
    welcome(id);
    give(fresh);
    owners.set(req, id);
    next();
  };
}

/** 32 random bytes in base64url, made by the device. */
function deviceKeyOf(req: Request): string | null {
  const key = req.get(DEVICE_HEADER);
  return key !== undefined && /^[\w-]{43}$/.test(key) ? key : null;
}

const sha256 = (text: string): string => createHash('sha256').update(text).digest('hex');
