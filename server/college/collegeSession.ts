import { Router, type Request } from 'express';
import { rateLimit } from 'express-rate-limit';
import { SignInBody } from '../../contract/officeBodies';
import type { OfficeSessionView } from '../../contract/officeViews';
import { FotoplanError } from '../../core/errors';
import type { CollegeService, OfficeRepository, SignedIn } from '../office/officeRepository';
import { validated } from '../validated';

const DAY_MS = 24 * 3600 * 1000;
const SIGN_INS_A_MINUTE = 20;
const NAMES: Readonly<Record<CollegeService, string>> = { office: 'the course office', locker: 'the locker', post: 'the post tray' };

/** Signing in with one of the college's services; its cookie goes to that service's addresses only. */
export function createCollegeSession(accounts: OfficeRepository, service: CollegeService, now: () => number) {
  const cookie = `${service}_session`;
  const path = `/${service}`;
  const tokenOf = (req: Request): string | null => {
    const token = (req.cookies as Record<string, unknown> | undefined)?.[cookie];
    return typeof token === 'string' ? token : null;
  };
  const account = (req: Request): SignedIn | null => {
    const token = tokenOf(req);
    return token === null ? null : accounts.accountOf(service, token);
  };
  const enter = (req: Request, number: string, pin: string): void => {
    const token = accounts.signIn(service, number, pin, now());
    if (token === null) throw new FotoplanError('SIGN_IN_WRONG', 'Number and PIN do not belong together. Look at your student card and try again.');
    req.res!.cookie(cookie, token, { httpOnly: true, sameSite: 'strict', secure: req.secure, maxAge: DAY_MS, path });
  };
  const signIn = (req: Request): void => {
    const { number, pin } = validated(SignInBody, { ...(req.body as object) });
    enter(req, number, pin);
  };
  const signOut = (req: Request): void => {
    const token = tokenOf(req);
    if (token !== null) accounts.signOut(token);
    req.res!.clearCookie(cookie, { path });
  };
  const tooMany = (): never => {
    throw new FotoplanError('TOO_MANY_TRIES', 'Too many tries. Wait a minute, then try again.');
  };
  const limit = rateLimit({ windowMs: 60_000, limit: SIGN_INS_A_MINUTE, standardHeaders: true, legacyHeaders: false, handler: tooMany });
  const routes = Router();
  routes.get('/session', (req, res) => {
    const found = account(req);
    const view: OfficeSessionView = { account: found === null ? null : { id: found.id, first: found.first, family: found.family, number: found.number } };
    res.json(view);
  });
  routes.post('/session', limit, (req, res) => {
    signIn(req);
    res.status(201).json({ ok: true });
  });
  routes.delete('/session', (req, res) => {
    signOut(req);
    res.status(204).end();
  });
  return {
    account,
    /** @throws FotoplanError NOT_SIGNED_IN */
    required(req: Request): SignedIn {
      const found = account(req);
      if (found === null) throw new FotoplanError('NOT_SIGNED_IN', `Sign in at ${NAMES[service]} first.`);
      return found;
    },
    enter,
    signIn,
    signOut,
    limit,
    routes,
  };
}
