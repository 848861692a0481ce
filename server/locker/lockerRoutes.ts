import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import cookieParser from 'cookie-parser';
import express, { Router } from 'express';
import { FolderBody, LockerFileBody } from '../../contract/placeBodies';
import type { LockerFolderView } from '../../contract/placeViews';
import { FotoplanError } from '../../core/errors';
import { createCollegeSession } from '../college/collegeSession';
import type { SignInGuard } from '../college/signInGuard';
import { pdfOf, receivePdf } from '../college/receivePdf';
import type { Database } from '../database';
import type { OfficeRepository } from '../office/officeRepository';
import { sameOrigin } from '../sameOrigin';
import type { UploadGate } from '../uploadGate';
import { validated } from '../validated';
import { createLockerFiles } from './lockerFiles';

const MOST_BYTES = 50_000_000;
const FIRST_FOLDERS = ['/Seashore Botany', '/Ropework Drawing', '/Tides and Tidal Streams'];

/** The simulated locker: folders for files, as a college gives its students. */
export function lockerRoutes(
  db: Database,
  accounts: OfficeRepository,
  now: () => number,
  gate: UploadGate,
  signInGuard: SignInGuard,
): Router {
  const folders = db.prepare<[string], { path: string }>('SELECT path FROM folder WHERE account_id = ? ORDER BY path');
  const addFolder = db.prepare<[string, string]>(
    'INSERT INTO folder (account_id, path) VALUES (?, ?) ON CONFLICT DO NOTHING',
  );
  const files = createLockerFiles(db, now);
  const foldersOf = (accountId: string): string[] => {
    const known = folders.all(accountId).map(({ path }) => path);
    if (known.length > 0) return known;
    for (const path of FIRST_FOLDERS) addFolder.run(accountId, path);
    return FIRST_FOLDERS;
  };
  const mustExist = (accountId: string, path: string): void => {
    if (path !== '' && !foldersOf(accountId).includes(path))
      throw new FotoplanError('NOT_FOUND', 'This folder is not there any more. Choose another.');
  };
  const router = Router();
  const session = createCollegeSession(accounts, 'locker', now, signInGuard);
  router.use(cookieParser(), sameOrigin, express.json({ limit: '20kb' }), session.routes);
  router.get('/folder', (req, res) => {
    const { id } = session.required(req);
    const { path } = validated(FolderBody, { path: req.query.path ?? '' });
    mustExist(id, path);
    const inside = foldersOf(id).filter(
      (folder) => folder.startsWith(`${path}/`) && !folder.slice(path.length + 1).includes('/'),
    );
    const view: LockerFolderView = {
      path,
      folders: inside.map((folder) => folder.slice(path.length + 1)),
      files: files.list(id, path),
    };
    res.json(view);
  });
  router.post('/folders', (req, res) => {
    const { id } = session.required(req);
    const { path } = validated(FolderBody, req.body);
    mustExist(id, path.slice(0, Math.max(0, path.lastIndexOf('/'))));
    addFolder.run(id, path);
    res.status(201).json({ path });
  });
  router.post(
    '/files',
    (req, _res, next) => next(void session.required(req)),
    gate,
    receivePdf(MOST_BYTES, `A file in the locker may have ${MOST_BYTES / 1e6} MB at most. Bind it under that limit.`),
    async (req, res) => {
      const { id } = session.required(req);
      const body = validated(LockerFileBody, { ...(req.body as object) });
      mustExist(id, body.path);
      res.status(201).json(await files.keep(id, body, pdfOf(req)));
    },
  );
  router.get('/files/:id', async (req, res) => {
    const file = files.open(session.required(req).id, req.params.id);
    if (file === null) throw new FotoplanError('NOT_FOUND', 'This file is not in your locker.');
    res
      .attachment(file.name)
      .type('application/pdf')
      .set({ 'cache-control': 'private, no-store', 'content-length': String(file.bytes) });
    await pipeline(Readable.from(file.pieces), res);
  });
  return router;
}
