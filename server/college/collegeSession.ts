import { Router, type Request } from 'express';
import { SignInBody } from '../../contract/officeBodies';
import type { OfficeSessionView } from '../../contract/officeViews';
import { FotoplanError } from '../../core/errors';
import { SESSION_MS, type CollegeService, type OfficeRepository, type SignedIn } from '../office/officeRepository';
import { isSecure } from '../publicAddress';
import { validated } from '../validated';
import type { SignInGuard } from './signInGuard';

const NAMES: Readonly<Record<CollegeService, string>> = {
  office: 'the course office',
  locker: 'the locker',
  post: 'the post tray',
};

/**
 * Signing in with one of the college's services; its cookie goes to that service's addresses only.
 * @param guard - of tries to sign in; one for all services, so that none is a way around it
 */
export function createCollegeSession(
  accounts: OfficeRepository,
  service: CollegeService,
  now: () => number,
  guard: SignInGuard,
) {
  const cookie = `${service}_session`;
  const path = `/${service}`;
  const tokenOf = (req: Request): string | null => {
    const token = (req.cookies as Record<string, unknown> | undefined)?.[cookie];
    return typeof token === 'string' ? token : null;
  };
  const account = (req: Request): SignedIn | null => {
    const token = tokenOf(req);
    return token === null ? null : accounts.accountOf(service, token, now());
  };
  const give = (req: Request, token: string): void =>
    void req.res!.cookie(cookie, token, {
      httpOnly: true,
      sameSite: 'strict',
      secure: isSecure(req),
      maxAge: SESSION_MS.most,
      path,
    });
  const signIn = async (req: Request): Promise<void> => {
    const { number, pin } = validated(SignInBody, { ...(req.body as object) });
    const wasRight = guard.begin(number, req.ip ?? '', now());
    const token = await accounts.signIn(service, number, pin, now());
    if (token === null)
      throw new FotoplanError(
        'SIGN_IN_WRONG',
        'Number and PIN do not belong together. Look at your student card and try again.',
      );
    wasRight();
    give(req, token);
  };
  const signOut = (req: Request): void => {
    const token = tokenOf(req);
    if (token !== null) accounts.signOut(token);
    req.res!.clearCookie(cookie, { path });
  };
  const routes = Router();
  routes.get('/session', (req, res) => {
    const found = account(req);
    const view: OfficeSessionView = {
      account: found === null ? null : { id: found.id, first: found.first, family: found.family, number: found.number },
    };
    res.json(view);
  });
  routes.post('/session', async (req, res) => {
    await signIn(req);
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
    /** The cookie of a session. */
    give,
    signIn,
    signOut,
    routes,
  };
}
