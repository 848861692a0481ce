import 'reflect-metadata';
import { existsSync, readdirSync } from 'node:fs';
import path from 'node:path';
import compression from 'compression';
import cookieParser from 'cookie-parser';
import express, { type Express } from 'express';
import helmet from 'helmet';
import type { Logger } from 'pino';
import type { PracticePhotosView } from '../contract/views';
import { FotoplanError } from '../core/errors';
import type { Database } from './database';
import { errorShape } from './errorShape';
import { ownerSession } from './ownerSession';
import { createBlobRepository } from './repositories/blobRepository';
import { createBoundFileRepository } from './repositories/boundFileRepository';
import { createHandInRepository } from './repositories/handInRepository';
import { createOperationRepository } from './repositories/operationRepository';
import { createOriginalRepository } from './repositories/originalRepository';
import { createOwnerRepository } from './repositories/ownerRepository';
import { boundFileRoutes } from './routes/boundFileRoutes';
import { handInRoutes } from './routes/handInRoutes';
import { originalRoutes } from './routes/originalRoutes';
import { createOfficeRepository } from './office/officeRepository';
import { officeRoutes } from './office/officeRoutes';
import { readerPages } from './office/readerPages';
import { seedOffice } from './office/seedOffice';
import { SHOW_PAGES } from './office/showPages';
import { createApplyOperations } from './services/applyOperations';
import { createDemoWelcome } from './services/demoWelcome';

export interface AppOptions {
  readonly db: Database;
  /** The course office's own file. */
  readonly officeDb: Database;
  /** The office's pages draw PDFs with this. */
  readonly pdfFolder?: string;
  /** It is a demo: the simulated office is filled, and its weather can be made. */
  readonly demo?: boolean;
  readonly log: Logger;
  readonly now: () => number;
  /** The web export; left out in server tests. */
  readonly webFolder?: string;
  /** Workers that the app loads only when it needs them. */
  readonly workerFolder?: string;
  /** Where the OCR engine and its data lie. */
  readonly readingFolders?: readonly string[];
  /** Practice photos that anyone may add, and the pictures of the practice table. */
  readonly practiceFolder?: string;
  readonly tableFolder?: string;
}

export function createApp({ db, officeDb, pdfFolder, demo = false, log, now, webFolder, workerFolder, readingFolders = [], practiceFolder, tableFolder }: AppOptions): Express {
  const blobs = createBlobRepository(db);
  const owners = createOwnerRepository(db);
  const handIns = createHandInRepository(db);
  const originals = createOriginalRepository(db, blobs);
  const boundFiles = createBoundFileRepository(db, blobs);
  const operations = createOperationRepository(db);
  const app = express();
  app.disable('x-powered-by');
  app.use(
    helmet({
      contentSecurityPolicy: {
        directives: {
          defaultSrc: ["'self'"],
          scriptSrc: ["'self'", "'wasm-unsafe-eval'"],
          workerSrc: ["'self'", 'blob:'],
          styleSrc: ["'self'", "'unsafe-inline'"], // react-native-web writes its rules into a style element
          imgSrc: ["'self'", 'blob:', 'data:'],
          connectSrc: ["'self'", 'blob:'],
          frameSrc: ["'self'", 'blob:'],
          objectSrc: ["'none'"],
          upgradeInsecureRequests: null, // the demo speaks plain http on localhost
        },
      },
      strictTransportSecurity: false,
    }),
  );
  app.use(compression());
  app.get('/health', (_req, res) => void res.json({ ok: true }));

  const api = express.Router();
  api.use(cookieParser(), ownerSession(owners, now, createDemoWelcome(db, handIns, originals)), express.json({ limit: '2mb' }));
  api.use(handInRoutes(handIns, createApplyOperations(db, { handIns, operations, originals })));
  api.use(originalRoutes(originals, blobs));
  api.use(boundFileRoutes(boundFiles, handIns, blobs, now));
  api.get('/practice-photos', (_req, res) => void res.json(listPhotos(practiceFolder, '/practice')));
  api.get('/practice-table', (_req, res) => void res.json(listPhotos(tableFolder, '/practice-table')));
  api.use((req) => {
    throw new FotoplanError('NOT_FOUND', `There is nothing at ${req.path}.`);
  });
  app.use('/api', api);
  const office = createOfficeRepository(officeDb);
  if (demo) seedOffice(office, now());
  app.use('/office/api', officeRoutes({ office, now, demo }));
  if (pdfFolder !== undefined) app.use('/office/pdfjs', express.static(pdfFolder, { index: false, maxAge: '1d' }));
  app.get('/office/showPages.js', (_req, res) => void res.type('text/javascript').send(SHOW_PAGES));
  app.use('/office', readerPages(office, now));
  if (practiceFolder !== undefined) app.use('/practice', express.static(practiceFolder, { maxAge: '1h', index: false }));
  if (tableFolder !== undefined) app.use('/practice-table', express.static(tableFolder, { maxAge: '1h', index: false }));
  for (const folder of readingFolders) app.use('/reading', express.static(folder, { maxAge: '1d', index: false }));
  if (workerFolder !== undefined) app.use('/workers', express.static(workerFolder, { index: false }));
  if (webFolder !== undefined) serveWeb(app, webFolder);
  app.use(errorShape(log));
  return app;
}

function listPhotos(folder: string | undefined, address: string): PracticePhotosView {
  const names = folder !== undefined && existsSync(folder) ? readdirSync(folder).filter((f) => f.endsWith('.jpg')).sort() : [];
  return { photos: names.map((name) => ({ name, url: `${address}/${encodeURIComponent(name)}` })) };
}

/** The web export: hashed files for good, index.html for every address of the app. */
function serveWeb(app: Express, webFolder: string): void {
  app.use(express.static(webFolder, { index: false, setHeaders: (res, file) => res.set('cache-control', /[.-][0-9a-f]{16,}\./.test(file) ? 'public, max-age=31536000, immutable' : 'no-cache') }));
  app.get(/^\/(?!api\/|practice\/|practice-table\/|workers\/|reading\/|office|_expo\/|assets\/)[^.]*$/, (_req, res) => {
    res.set('cache-control', 'no-cache').sendFile(path.join(webFolder, 'index.html'));
  });
}
