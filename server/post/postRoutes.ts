import { createHash, randomUUID } from 'node:crypto';
import cookieParser from 'cookie-parser';
import express, { Router } from 'express';
import { MessageBody } from '../../contract/placeBodies';
import type { MessageView } from '../../contract/placeViews';
import { FotoplanError } from '../../core/errors';
import { createCollegeSession } from '../college/collegeSession';
import type { SignInGuard } from '../college/signInGuard';
import { pdfOf, receivePdf } from '../college/receivePdf';
import type { Database } from '../database';
import type { OfficeRepository } from '../office/officeRepository';
import { sameOrigin } from '../sameOrigin';
import type { UploadGate } from '../uploadGate';
import { validated } from '../validated';

/** What mail takes as an attachment. */
const MOST_BYTES = 10_000_000;
const MOST_BYTES_TOGETHER = 500_000_000;

type Row = Omit<MessageView, 'atMs'> & { readonly at_ms: number };

/** The simulated post tray: mail goes out with the file itself, never a link to it. */
export function postRoutes(
  db: Database,
  accounts: OfficeRepository,
  now: () => number,
  gate: UploadGate,
  signInGuard: SignInGuard,
): Router {
  const columns = 'id, "to", subject, text, name, bytes, sha256, at_ms';
  const list = db.prepare<[string], Row>(
    `SELECT ${columns} FROM message WHERE account_id = ? ORDER BY at_ms DESC, rowid DESC LIMIT 200`,
  );
  const byKey = db.prepare<[string, string], Row>(
    `SELECT ${columns} FROM message WHERE account_id = ? AND idempotency_key = ?`,
  );
  const insert = db.prepare<
    [string, string, string, string, string, string, string, number, string, number, Uint8Array]
  >(
    'INSERT INTO message (id, account_id, idempotency_key, "to", subject, text, name, bytes, sha256, at_ms, data) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?) ON CONFLICT DO NOTHING',
  );
  const data = db.prepare<[string, string], { name: string; data: Buffer }>(
    'SELECT name, data FROM message WHERE account_id = ? AND id = ?',
  );
  const together = db.prepare<[string], { bytes: number }>(
    'SELECT coalesce(sum(bytes), 0) AS bytes FROM message WHERE account_id = ?',
  );
  const toView = ({ at_ms, ...row }: Row): MessageView => ({ ...row, atMs: at_ms });
  const router = Router();
  const session = createCollegeSession(accounts, 'post', now, signInGuard);
  router.use(cookieParser(), sameOrigin, express.json({ limit: '20kb' }), session.routes);
  router.get('/messages', (req, res) => void res.json({ messages: list.all(session.required(req).id).map(toView) }));
  router.post(
    '/messages',
    (req, _res, next) => next(void session.required(req)),
    gate,
    receivePdf(MOST_BYTES, `Mail takes attachments up to ${MOST_BYTES / 1e6} MB. Bind the file under that limit.`),
    (req, res) => {
      const { id } = session.required(req);
      const { key, to, subject, text, name } = validated(MessageBody, { ...(req.body as object) });
      const bytes = pdfOf(req);
      if (byKey.get(id, key) === undefined && together.get(id)!.bytes + bytes.length > MOST_BYTES_TOGETHER)
        throw new FotoplanError('QUOTA_FULL', `Your tray is full: ${MOST_BYTES_TOGETHER / 1e6} MB.`);
      insert.run(
        randomUUID(),
        id,
        key,
        to,
        subject,
        text ?? '',
        name,
        bytes.length,
        createHash('sha256').update(bytes).digest('hex'),
        now(),
        bytes,
      );
      res.status(201).json(toView(byKey.get(id, key)!));
    },
  );
  router.get('/messages/:id/attachment', (req, res) => {
    const file = data.get(session.required(req).id, req.params.id);
    if (file === undefined) throw new FotoplanError('NOT_FOUND', 'This mail is not in your tray.');
    res.attachment(file.name).type('application/pdf').set('cache-control', 'private, no-store').send(file.data);
  });
  return router;
}
