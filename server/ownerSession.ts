import { createHash, randomBytes, randomUUID } from 'node:crypto';
import type { Request, RequestHandler } from 'express';
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
 * Gives every browser an owner of its own by an httpOnly cookie. Only the token's hash is stored.
 * @param welcome - called with a new owner's id, for the demo's data
 */
export function ownerSession(repository: OwnerRepository, now: () => number, welcome: (ownerId: string) => void): RequestHandler {
  return (req, res, next) => {
    const cookies = req.cookies as Record<string, string | undefined>;
    const token = cookies[COOKIE];
    const known = typeof token === 'string' ? repository.idByToken(sha256(token)) : null;
    if (known !== null) {
      owners.set(req, known);
      return next();
    }
    const fresh = randomBytes(32).toString('base64url');
    const id = randomUUID();
    repository.add(id, sha256(fresh), now());
    welcome(id);
    res.cookie(COOKIE, fresh, { httpOnly: true, sameSite: 'strict', secure: req.secure, maxAge: YEAR_MS, path: '/' });
    owners.set(req, id);
    next();
  };
}

const sha256 = (text: string): string => createHash('sha256').update(text).digest('hex');
