import { createHash, randomUUID } from 'node:crypto';
import cookieParser from 'cookie-parser';
import express, { Router } from 'express';
import { FolderBody, LockerFileBody } from '../../contract/placeBodies';
import type { LockerFileView, LockerFolderView } from '../../contract/placeViews';
import { FotoplanError } from '../../core/errors';
import { createCollegeSession } from '../college/collegeSession';
import type { SignInGuard } from '../college/signInGuard';
import { pdfOf, receivePdf } from '../college/receivePdf';
import type { Database } from '../database';
import type { OfficeRepository } from '../office/officeRepository';
import { sameOrigin } from '../sameOrigin';
import type { UploadGate } from '../uploadGate';
import { validated } from '../validated';

const MOST_BYTES = 50_000_000;
const MOST_BYTES_TOGETHER = 500_000_000;
const FIRST_FOLDERS = ['/Seashore Botany', '/Ropework Drawing', '/Tides and Tidal Streams'];

interface FileRow {
  id: string;
  path: string;
  name: string;
  bytes: number;
  sha256: string;
  at_ms: number;
}

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
  const files = db.prepare<[string, string], FileRow>(
    'SELECT id, path, name, bytes, sha256, at_ms FROM file WHERE account_id = ? AND path = ? ORDER BY name',
  );
  const used = db.prepare<[string], { bytes: number | null }>(
    'SELECT sum(bytes) AS bytes FROM file WHERE account_id = ?',
  );
  const insert = db.prepare<[string, string, string, string, number, string, number, Uint8Array]>(
    'INSERT INTO file (id, account_id, path, name, bytes, sha256, at_ms, data) VALUES (?, ?, ?, ?, ?, ?, ?, ?) ON CONFLICT (account_id, path, name) DO UPDATE SET bytes = excluded.bytes, sha256 = excluded.sha256, at_ms = excluded.at_ms, data = excluded.data',
  );
  const data = db.prepare<[string, string], { name: string; data: Buffer }>(
    'SELECT name, data FROM file WHERE account_id = ? AND id = ?',
  );
  const toView = ({ at_ms, ...row }: FileRow): LockerFileView => ({ ...row, atMs: at_ms });
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
  const keep = db.transaction(
    (accountId: string, { path, name, onExisting }: LockerFileBody, bytes: Buffer): LockerFileView => {
      mustExist(accountId, path);
      if ((used.get(accountId)?.bytes ?? 0) + bytes.length > MOST_BYTES_TOGETHER)
        throw new FotoplanError('QUOTA_FULL', 'Your locker is full. Take old files out of it, then save again.');
      const taken = new Set(files.all(accountId, path).map((file) => file.name));
      if (taken.has(name) && onExisting === 'ask')
        throw new FotoplanError(
          'NAME_TAKEN',
          `There is a file called “${name}” in this folder already. Replace it, or keep both.`,
        );
      const free = taken.has(name) && onExisting === 'both' ? freeName(name, taken) : name;
      insert.run(
        randomUUID(),
        accountId,
        path,
        free,
        bytes.length,
        createHash('sha256').update(bytes).digest('hex'),
        now(),
        bytes,
      );
      return toView(files.all(accountId, path).find((file) => file.name === free)!);
    },
  );
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
      files: files.all(id, path).map(toView),
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
    (req, res) => {
      res
        .status(201)
        .json(keep(session.required(req).id, validated(LockerFileBody, { ...(req.body as object) }), pdfOf(req)));
    },
  );
  router.get('/files/:id', (req, res) => {
    const file = data.get(session.required(req).id, req.params.id);
    if (file === undefined) throw new FotoplanError('NOT_FOUND', 'This file is not in your locker.');
    res.attachment(file.name).type('application/pdf').set('cache-control', 'private, no-store').send(file.data);
  });
  return router;
}

function freeName(name: string, taken: ReadonlySet<string>): string {
  const stem = name.replace(/\.pdf$/i, '');
  for (let n = 2; ; n++) {
    const next = `${stem} (${n}).pdf`;
    if (!taken.has(next)) return next;
  }
}
