import { createHash, randomBytes } from 'node:crypto';
import type { Request, RequestHandler, Response } from 'express';
import { DEVICE_HEADER } from '../contract/deviceHeader';
import { FotoplanError } from '../core/errors';
import { unlessDiskFull, type Database } from './database';
import { isSecure } from './publicAddress';
import type { OwnerRepository } from './repositories/ownerRepository';
import type { ScreenRepository } from './repositories/screenRepository';

const COOKIE = 'fotoplan_owner';
const YEAR_MS = 365 * 24 * 3600 * 1000;
/** How exactly it is known when a screen was last there. */
const SEEN_EVERY_MS = 60_000;
const MOST_LOOKERS = 20_000;
const LOOKS = new Set(['GET', 'HEAD', 'OPTIONS']);

/** Who asks, for as long as a request takes. */
interface Session {
  /** Of the screen. */
  readonly id: string;
  /** Asked for anew each time: while a photo came in, its owner may have been linked to another. */
  readonly ownerId: () => string;
  readonly isKnown: boolean;
  readonly token: string;
}
const sessions = new WeakMap<Request, Session>();

function sessionOf(req: Request): Session {
  const found = sessions.get(req);
  if (found === undefined) throw new Error('asked for the session before its middleware');
  return found;
}

/** The owner this request acts for. */
export const ownerOf = (req: Request): string => sessionOf(req).ownerId();

/** The screen this request comes from. */
export const screenOf = (req: Request): string => sessionOf(req).id;

/** Whether anything is kept of whoever asks. */
export const isKnown = (req: Request): boolean => sessionOf(req).isKnown;

/** Takes the browser's cookie away. */
export const forgetSession = (res: Response): void => void res.clearCookie(COOKIE, { path: '/' });

export interface SessionOptions {
  readonly db: Database;
  readonly owners: OwnerRepository;
  readonly screens: ScreenRepository;
  readonly now: () => number;
  /** A demo keeps something of everybody who looks in: its examples. */
  readonly keepsLookers: boolean;
  /** Called with a new owner's id, for the demo's data. */
  readonly welcome: (ownerId: string, req: Request) => void;
}

export interface OwnerSession {
  /** Tells who asks. */
  readonly identify: RequestHandler;
  /** Whether somebody new is about to be stored. */
  readonly begins: (req: Request) => boolean;
  /** Stores who keeps something. */
  readonly admit: RequestHandler;
}

/**
 * Gives every browser an owner of its own by an httpOnly cookie, until it is linked to another's. Only the token's hash is
 * stored. Browsers write cookies to disk seconds late: one that dies before that is known again by the key that it keeps
 * beside its pages. Of who only looks nothing is stored: ids are made from the token, so that they are the same when
 * something is kept.
 */
export function ownerSession({ db, owners, screens: known, now, keepsLookers, welcome }: SessionOptions): OwnerSession {
  const begin = db.transaction((ownerId: string, screenId: string, token: string, req: Request) => {
    owners.add(ownerId, now());
    known.add(screenId, ownerId, sha256(token), kindOf(req), now());
    welcome(ownerId, req);
  });
  /** Cookies of those who have only looked so far, the latest. */
  const givenOut = new Set<string>();
  const remember = (token: string): void => {
    givenOut.delete(token);
    givenOut.add(token);
    if (givenOut.size > MOST_LOOKERS) givenOut.delete(givenOut.values().next().value!);
  };
  const begins = (req: Request): boolean => !isKnown(req) && (keepsLookers || !LOOKS.has(req.method));
  return {
    begins,
    identify(req, res, next) {
      const cookies = req.cookies as Record<string, string | undefined>;
      const device = deviceKeyOf(req);
      const cookie = cookies[COOKIE];
      const give = (value: string): void =>
        void res.cookie(COOKIE, value, {
          httpOnly: true,
          sameSite: 'strict',
          secure: isSecure(req),
          maxAge: YEAR_MS,
          path: '/',
        });
      const byCookie = typeof cookie === 'string' ? known.find(sha256(cookie)) : null;
      const byDevice = byCookie === null && device !== null ? known.find(sha256(device)) : null;
      const screen = byCookie ?? byDevice;
      if (screen !== null) {
        if (screen.cutOff) {
          forgetSession(res);
          throw new FotoplanError('SCREEN_CUT_OFF', 'This device was unlinked. Start afresh here, or link it again.');
        }
        if (byDevice !== null) give(device!);
        if (now() - screen.seenAtMs > SEEN_EVERY_MS) unlessDiskFull(() => known.see(screen.id, now()));
        sessions.set(req, {
          id: screen.id,
          ownerId: () => known.ownerOf(screen.id) ?? screen.ownerId,
          isKnown: true,
          token: '',
        });
        return next();
      }
      if (!isFromOurPages(req))
        throw new FotoplanError(
          'NOT_SIGNED_IN',
          'This browser is not known here. Open Fotoplan first, then come back.',
        );
      // a cookie that was not given out here is not taken over: somebody else may know it
      const token =
        device ?? (cookie !== undefined && givenOut.has(cookie) ? cookie : randomBytes(32).toString('base64url'));
      remember(token);
      if (token !== cookie) give(token);
      const ownerId = idFrom('owner', token);
      sessions.set(req, { id: idFrom('screen', token), ownerId: () => ownerId, isKnown: false, token });
      next();
    },
    admit(req, _res, next) {
      if (begins(req)) {
        const { id, ownerId, token } = sessionOf(req);
        begin(ownerId(), id, token, req);
        sessions.set(req, { id, ownerId, isKnown: true, token });
      }
      next();
    },
  };
}

/**
 * Whether a page of ours asks. A link on another site opens without the cookie that is there (SameSite), so an owner made for it
 * would put a new cookie in its place, and the person's work out of reach. Browsers that do not tell where a request
 * comes from still ask for a page when they follow a link.
 */
function isFromOurPages(req: Request): boolean {
  const site = req.get('sec-fetch-site') ?? 'same-origin';
  return (
    site === 'same-origin' &&
    req.get('sec-fetch-mode') !== 'navigate' &&
    !(req.get('accept') ?? '').includes('text/html')
  );
}

/** An id that tells nothing of the token it is made from. */
const idFrom = (what: 'owner' | 'screen', token: string): string => sha256(`${what} of ${token}`).slice(0, 32);

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
