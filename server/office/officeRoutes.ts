import cookieParser from 'cookie-parser';
import express, { Router, type Request } from 'express';
import { rateLimit } from 'express-rate-limit';
import multer from 'multer';
import { SignInBody, SubmissionBody, WeatherBody, type Weather } from '../../contract/officeBodies';
import type { AssignmentsView, OfficeSessionView, ReceiptsView, TicketView } from '../../contract/officeViews';
import { FotoplanError } from '../../core/errors';
import { standing, type Assignment } from '../../core/ready/assignment';
import { validated } from '../validated';
import type { OfficeRepository, SignedIn, SubmissionRow } from './officeRepository';
import { takeSubmission } from './takeSubmission';

const COOKIE = 'office_session';
const DAY_MS = 24 * 3600 * 1000;
/** Nothing larger is read at all; what an assignment allows is said in words. */
const MOST_BYTES = 60_000_000;
const SIGN_INS_A_MINUTE = 20;

export interface OfficeOptions {
  readonly office: OfficeRepository;
  readonly now: () => number;
  /** The weather can be made; never where the office is a real one. */
  readonly demo: boolean;
}

/** Who is signed in at the office with this request, or null. */
export function officeAccount(office: OfficeRepository, req: Request): SignedIn | null {
  const token = (req.cookies as Record<string, unknown> | undefined)?.[COOKIE];
  return typeof token === 'string' ? office.accountOf(token) : null;
}

/** Signs in and gives the cookie, which only the office's own addresses see. */
export function signIn(office: OfficeRepository, now: () => number, req: Request): void {
  const { number, pin } = validated(SignInBody, req.body);
  const token = office.signIn(number, pin, now());
  if (token === null) throw new FotoplanError('SIGN_IN_WRONG', 'Number and PIN do not belong together. Look at your student card and try again.');
  req.res!.cookie(COOKIE, token, { httpOnly: true, sameSite: 'strict', secure: req.secure, maxAge: DAY_MS, path: '/office' });
}

export const signInLimit = () => rateLimit({ windowMs: 60_000, limit: SIGN_INS_A_MINUTE, standardHeaders: true, legacyHeaders: false, handler: () => { throw new FotoplanError('TOO_MANY_TRIES', 'Too many tries. Wait a minute, then try again.'); } });

/** The course office as programs see it. */
export function officeRoutes({ office, now, demo }: OfficeOptions): Router {
  const router = Router();
  let weather: Weather = 'calm';
  let dropped = 0;
  router.use(cookieParser(), express.json({ limit: '50kb' }));
  if (demo) {
    router.post('/weather', (req, res) => {
      weather = validated(WeatherBody, req.body).weather;
      dropped = 0;
      res.json({ weather });
    });
  }
  router.use((_req, _res, next) => {
    if (weather === 'down') throw new FotoplanError('OFFICE_BUSY', 'The course office does not answer. Your file is kept here; try again in a few minutes.');
    next();
  });
  const account = (req: Request): SignedIn => {
    const found = officeAccount(office, req);
    if (found === null) throw new FotoplanError('NOT_SIGNED_IN', 'Sign in at the course office first.');
    return found;
  };
  const assignmentOf = (id: string): Assignment => {
    const found = office.assignments().find((each) => each.id === id);
    if (found === undefined) throw new FotoplanError('NOT_FOUND', 'This assignment is not there any more. Choose another.');
    return found;
  };
  const ownSubmission = (req: Request<{ id: string }>): SubmissionRow => {
    const who = account(req);
    const row = office.find(req.params.id, now());
    if (row === null || (row.account_id !== who.id && !who.reader)) throw new FotoplanError('NOT_FOUND', 'There is no such submission.');
    return row;
  };
  const ticket = (row: SubmissionRow): TicketView =>
    row.state === 'queued'
      ? { state: 'queued', submissionId: row.id }
      : row.state === 'refused'
        ? { state: 'refused', submissionId: row.id, message: row.refusal ?? '' }
        : { state: 'accepted', submissionId: row.id, receipt: office.receipt(row) };

  router.get('/session', (req, res) => {
    const found = officeAccount(office, req);
    const view: OfficeSessionView = { account: found === null ? null : { id: found.id, first: found.first, family: found.family, number: found.number } };
    res.json(view);
  });
  router.post('/session', signInLimit(), (req, res) => {
    signIn(office, now, req);
    res.status(201).json({ ok: true });
  });
  router.delete('/session', (req, res) => {
    const token = (req.cookies as Record<string, string | undefined>)[COOKIE];
    if (token !== undefined) office.signOut(token);
    res.clearCookie(COOKIE, { path: '/office' }).status(204).end();
  });
  router.get('/assignments', (_req, res) => {
    const view: AssignmentsView = { assignments: office.assignments() };
    res.json(view);
  });
  router.get('/submissions', (req, res) => {
    const view: ReceiptsView = { receipts: office.ofAccount(account(req).id).map(office.receipt) };
    res.json(view);
  });
  const upload = multer({ storage: multer.memoryStorage(), limits: { fileSize: MOST_BYTES, files: 1, fields: 12, fieldSize: 10_000 } }).single('file');
  router.post(
    '/assignments/:id/submissions',
    (req, _res, next) => {
      account(req);
      // half of it, and then nothing: as a tunnel does to a train
      if (weather === 'dropping' && dropped++ === 0) {
        req.once('data', () => req.socket.destroy());
        return;
      }
      next();
    },
    (req, res, next) => upload(req, res, (error: unknown) => next(error === undefined ? undefined : new FotoplanError('BODY_INVALID', `The file could not be taken: at most ${MOST_BYTES / 1e6} MB, one file, as a form.`, {}, { cause: error }))),
    async (req, res) => {
      const file = (req as Request & { file?: { buffer: Buffer } }).file;
      if (file === undefined) throw new FotoplanError('BODY_INVALID', 'No file came with it. Choose the PDF and hand it in again.');
      const row = await takeSubmission(office, account(req), assignmentOf(req.params.id), validated(SubmissionBody, { ...req.body }), file.buffer, weather, now());
      res.status(202).json(ticket(row));
    },
  );
  router.get('/tickets/:id', (req, res) => void res.json(ticket(ownSubmission(req))));
  router.post('/submissions/:id/withdraw', (req, res) => {
    const row = ownSubmission(req);
    const assignment = assignmentOf(row.assignment_id);
    if (row.state !== 'accepted' || standing(assignment, now()) === 'closed') throw new FotoplanError('OFFICE_REFUSED', 'This can no longer be withdrawn: the assignment is closed, or it was withdrawn before.');
    office.withdraw(row.id);
    res.json(office.receipt(office.find(row.id, now())!));
  });
  router.get('/submissions/:id/file', (req, res) => {
    const row = ownSubmission(req);
    res.set({ 'content-type': 'application/pdf', 'cache-control': 'private, no-store' }).send(office.file(row.id));
  });
  router.use((req) => {
    throw new FotoplanError('NOT_FOUND', `There is nothing at ${req.path}.`);
  });
  return router;
}
