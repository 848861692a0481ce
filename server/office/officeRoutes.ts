import cookieParser from 'cookie-parser';
import express, { Router, type Request } from 'express';
import { SubmissionBody, WeatherBody, type Weather } from '../../contract/officeBodies';
import type { AssignmentsView, ReceiptsView, TicketView, UploadedView } from '../../contract/officeViews';
import { FotoplanError } from '../../core/errors';
import { standing, type Assignment } from '../../core/work/office/assignment';
import { createCollegeSession } from '../college/collegeSession';
import type { SignInGuard } from '../college/signInGuard';
import { sameOrigin } from '../sameOrigin';
import type { FileChecks } from '../fileChecks/fileChecks';
import type { UploadGate } from '../uploadGate';
import { validated } from '../validated';
import { createResumableUploads } from './resumableUploads';
import type { OfficeRepository, SignedIn, SubmissionRow } from './officeRepository';
import { takeSubmission } from './takeSubmission';

/** In bad weather the line breaks after this long. */
const DROPS_AFTER_MS = 150;

export interface OfficeOptions {
  readonly office: OfficeRepository;
  readonly fileChecks: FileChecks;
  readonly now: () => number;
  /** The weather can be made; never where the office is a real one. */
  readonly demo: boolean;
  readonly gate: UploadGate;
  readonly signInGuard: SignInGuard;
}

/** The course office as programs see it. */
export function officeRoutes({ office, fileChecks, now, demo, gate, signInGuard }: OfficeOptions): Router {
  const router = Router();
  let weather: Weather = 'calm';
  let dropped = 0;
  router.use(cookieParser(), sameOrigin, express.json({ limit: '50kb' }));
  if (demo) {
    router.post('/weather', (req, res) => {
      weather = validated(WeatherBody, req.body).weather;
      dropped = 0;
      res.json({ weather });
    });
  }
  router.use((_req, _res, next) => {
    if (weather === 'down')
      throw new FotoplanError(
        'OFFICE_BUSY',
        'The course office does not answer. Your file is kept here; try again in a few minutes.',
      );
    next();
  });
  const session = createCollegeSession(office, 'office', now, signInGuard);
  const account = (req: Request): SignedIn => session.required(req);
  const assignmentOf = (id: string): Assignment => {
    const found = office.assignments().find((each) => each.id === id);
    if (found === undefined)
      throw new FotoplanError('NOT_FOUND', 'This assignment is not there any more. Choose another.');
    return found;
  };
  const ownSubmission = (req: Request<{ id: string }>): SubmissionRow => {
    const who = account(req);
    const row = office.find(req.params.id, now());
    // what the office refused or has not looked at yet is nobody else's
    const isShown =
      row !== null &&
      (row.account_id === who.id || (who.reader && (row.state === 'accepted' || row.state === 'withdrawn')));
    if (!isShown) throw new FotoplanError('NOT_FOUND', 'There is no such submission.');
    return row;
  };
  const ticket = (row: SubmissionRow): TicketView =>
    row.state === 'queued'
      ? { state: 'queued', submissionId: row.id }
      : row.state === 'refused'
        ? { state: 'refused', submissionId: row.id, message: row.refusal ?? '' }
        : { state: 'accepted', submissionId: row.id, receipt: office.receipt(row) };

  router.use(session.routes);
  router.get('/assignments', (_req, res) => {
    const view: AssignmentsView = { assignments: office.assignments() };
    res.json(view);
  });
  router.get('/submissions', (req, res) => {
    const view: ReceiptsView = { receipts: office.ofAccount(account(req).id, now()).map(office.receipt) };
    res.json(view);
  });
  const uploads = createResumableUploads(now);
  router.get('/uploads/:key', (req, res) => {
    const view: UploadedView = { received: uploads.received(account(req).id, req.params.key) };
    res.json(view);
  });
  router.post(
    '/assignments/:id/submissions',
    (req, _res, next) => {
      account(req);
      // half of it, and then nothing: as a tunnel does to a train
      if (weather === 'dropping' && dropped++ === 0) setTimeout(() => req.socket.destroy(), DROPS_AFTER_MS);
      next();
    },
    gate,
    (req, res, next) => uploads.receive(account(req).id, weather === 'dropping' && dropped === 1)(req, res, next),
    async (req, res) => {
      const body = validated(SubmissionBody, { ...(req.body as object) });
      const row = await takeSubmission(
        office,
        account(req),
        assignmentOf(req.params.id),
        body,
        uploads.whole(account(req).id, body.key),
        fileChecks,
        weather,
        now(),
      );
      uploads.drop(account(req).id, body.key);
      res.status(202).json(ticket(row));
    },
  );
  router.get('/tickets/:id', (req, res) => void res.json(ticket(ownSubmission(req))));
  router.post('/submissions/:id/withdraw', (req, res) => {
    const row = ownSubmission(req);
    const assignment = assignmentOf(row.assignment_id);
    if (row.state !== 'accepted' || standing(assignment, now()) === 'closed')
      throw new FotoplanError(
        'OFFICE_REFUSED',
        'This can no longer be withdrawn: the assignment is closed, or it was withdrawn before.',
      );
    office.withdraw(row.id);
    res.json(office.receipt(office.find(row.id, now())!));
  });
  router.get('/submissions/:id/file', (req, res) => {
    const row = ownSubmission(req);
    if (row.refusal !== null) throw new FotoplanError('NOT_FOUND', 'The office refused this file and did not keep it.');
    res.set({ 'content-type': 'application/pdf', 'cache-control': 'private, no-store' }).send(office.file(row.id));
  });
  router.use((req) => {
    throw new FotoplanError('NOT_FOUND', `There is nothing at ${req.path}.`);
  });
  return router;
}
