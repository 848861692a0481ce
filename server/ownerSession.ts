import { createHash, randomBytes, randomUUID } from 'node:crypto';
import type { Request, RequestHandler, Response } from 'express';
import { DEVICE_HEADER } from '../contract/deviceHeader';
import { FotoplanError } from '../core/errors';
import { unlessDiskFull, type Database } from './database';
import { isSecure } from './publicAddress';
import type { OwnerRepository } from './repositories/ownerRepository';
import type { KnownScreen, ScreenRepository } from './repositories/screenRepository';

const COOKIE = 'fotoplan_owner';
const YEAR_MS = 365 * 24 * 3600 * 1000;
/** How exactly it is known when a screen was last there. */
const SEEN_EVERY_MS = 60_000;
const screens = new WeakMap<Request, Pick<KnownScreen, 'id' | 'ownerId'>>();

function sessionOf(req: Request): Pick<KnownScreen, 'id' | 'ownerId'> {
  const found = screens.get(req);
  if (found === undefined) throw new Error('asked for the session before its middleware');
  return found;
}

/** Takes the browser's cookie away. */
export const forgetSession = (res: Response): void => void res.clearCookie(COOKIE, { path: '/' });

/** The owner this request acts for. */
export const ownerOf = (req: Request): string => sessionOf(req).ownerId;

/** The screen this request comes from. */
export const screenOf = (req: Request): string => sessionOf(req).id;

export interface SessionOptions {
  readonly db: Database;
  readonly owners: OwnerRepository;
  readonly screens: ScreenRepository;
  readonly now: () => number;
  /** Called with a new owner's id, for the demo's data. */
  readonly welcome: (ownerId: string, req: Request) => void;
}

/**
 * Gives every browser an owner of its own by an httpOnly cookie, until it is linked to another's. Only the token's hash is
 * stored. Browsers write cookies to disk seconds late: one that dies before that is known again by the key that it keeps
 * beside its pages.
 */
export function ownerSession({ db, owners, screens: known, now, welcome }: SessionOptions): RequestHandler {
  const begin = db.transaction((ownerId: string, screenId: string, token: string, req: Request) => {
    owners.add(ownerId, now());
    known.add(screenId, ownerId, sha256(token), kindOf(req), now());
    welcome(ownerId, req);
  });
  return (req, res, next) => {
    const cookies = req.cookies as Record<string, string | undefined>;
    const device = deviceKeyOf(req);
    const token = cookies[COOKIE];
    const give = (value: string): void => void res.cookie(COOKIE, value, { httpOnly: true, sameSite: 'strict', secure: isSecure(req), maxAge: YEAR_MS, path: '/' });
    const byCookie = typeof token === 'string' ? known.find(sha256(token)) : null;
    const byDevice = byCookie === null && device !== null ? known.find(sha256(device)) : null;
    const screen = byCookie ?? byDevice;
    if (screen !== null) {
      if (screen.cutOff) {
        forgetSession(res);
        throw new FotoplanError('SCREEN_CUT_OFF', 'This screen was cut off from another one. Start afresh here, or link it again.');
      }
      if (byDevice !== null) give(device!);
      if (now() - screen.seenAtMs > SEEN_EVERY_MS) unlessDiskFull(() => known.see(screen.id, now()));
      screens.set(req, screen);
      return next();
    }
    if (!isFromOurPages(req)) throw new FotoplanError('NOT_SIGNED_IN', 'This browser is not known here. Open Fotoplan first, then come back.');
    const fresh = device ?? randomBytes(32).toString('base64url');
    const ownerId = randomUUID();
    const id = randomUUID();
    begin(ownerId, id, fresh, req);
    give(fresh);
    screens.set(req, { id, ownerId });
    next();
  };
}

/**
 * Whether a page of ours asks. A link on another site opens without the cookie that is there (SameSite), so an owner made for it
 * would put a new cookie in its place, and the person's work out of reach. Browsers that do not tell where a request
 * comes from still ask for a page when they follow a link.
 */
function isFromOurPages(req: Request): boolean {
  const site = req.get('sec-fetch-site') ?? 'same-origin';
  return site === 'same-origin' && req.get('sec-fetch-mode') !== 'navigate' && !(req.get('accept') ?? '').includes('text/html');
}

/** 32 random bytes in base64url, made by the device. */
function deviceKeyOf(req: Request): string | null {
  const key = req.get(DEVICE_HEADER);
  return key !== undefined && /^[\w-]{43}$/.test(key) ? key : null;
}

/** What kind of thing it is, for telling screens apart; nothing else of what the browser says is kept. */
function kindOf(req: Request): string {
  const agent = req.get('user-agent') ?? '';
  if (/iPad|Tablet/.test(agent)) return 'Tablet';
  return /Mobi|Android|iPhone/.test(agent) ? 'Phone' : 'Computer';
}

export const sha256 = (text: string): string => createHash('sha256').update(text).digest('hex');
