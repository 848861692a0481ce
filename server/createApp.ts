import 'reflect-metadata';
import { existsSync, readdirSync } from 'node:fs';
import type { ServerResponse } from 'node:http';
import path from 'node:path';
import compression from 'compression';
import cookieParser from 'cookie-parser';
import express, { type Express } from 'express';
import expressStaticGzip from 'express-static-gzip';
import helmet from 'helmet';
import type { Logger } from 'pino';
import type { PracticePhotosView } from '../contract/views';
import { FotoplanError } from '../core/errors';
import type { BlobStore } from './blobs/blobStore';
import type { BytesWork } from './blobs/bytesWork';
import { createCollegeSession } from './college/collegeSession';
import { createSignInGuard } from './college/signInGuard';
import { Config } from './config/config';
import type { Database } from './database';
import { errorShape } from './errorShape';
import type { FileChecks } from './fileChecks/fileChecks';
import { createLiveEvents } from './events/liveEvents';
import { createLimits } from './limits';
import { openApi } from './openApi/openApi';
import { lockerRoutes } from './locker/lockerRoutes';
import { createOfficeRepository } from './office/officeRepository';
import { officeRoutes } from './office/officeRoutes';
import { readerPages } from './office/readerPages';
import { DEMO_STUDENT, seedOffice } from './office/seedOffice';
import { SHOW_PAGES } from './office/showPages';
import { healthRoutes } from './observability/healthRoutes';
import type { Metrics } from './observability/metrics';
import { requestLog } from './observability/requestLog';
import { isKnown, ownerOf, ownerSession } from './ownerSession';
import { postRoutes } from './post/postRoutes';
import { setPublicAddress } from './publicAddress';
import { createBoundFileRepository } from './repositories/boundFileRepository';
import { createChangeRepository } from './repositories/changeRepository';
import { createHandInRepository } from './repositories/handInRepository';
import { createOperationRepository } from './repositories/operationRepository';
import { createOriginalRepository } from './repositories/originalRepository';
import { createOwnerRepository } from './repositories/ownerRepository';
import { createPictureRepository } from './repositories/pictureRepository';
import { createRecoveryRepository } from './repositories/recoveryRepository';
import { createScreenRepository } from './repositories/screenRepository';
import { createUploadRepository } from './repositories/uploadRepository';
import { createUsageRepository } from './repositories/usageRepository';
import { refuseWildJson } from './refuseWildJson';
import { boundFileRoutes } from './routes/boundFileRoutes';
import { changeRoutes } from './routes/changeRoutes';
import { handInRoutes } from './routes/handInRoutes';
import { originalRoutes } from './routes/originalRoutes';
import { pictureRoutes } from './routes/pictureRoutes';
import { recoveryRoutes } from './routes/recoveryRoutes';
import { screenRoutes } from './routes/screenRoutes';
import { sameOrigin } from './sameOrigin';
import { createApplyOperations } from './services/applyOperations';
import { createUploadGate, type UploadGate } from './uploadGate';
import { createDemoWelcome } from './services/demoWelcome';

export interface AppOptions {
  readonly db: Database;
  readonly blobs: BlobStore;
  /** The file for bytes is only read; they are written by the work. */
  readonly bytesFile: Database;
  readonly bytesWork: BytesWork;
  /** The simulated college's files, each service's own. */
  readonly college: { readonly office: Database; readonly locker: Database; readonly post: Database };
  /** The office's pages draw PDFs with this. */
  readonly pdfFolder?: string;
  /** What differs from the defaults. */
  readonly config?: Partial<Config>;
  readonly log: Logger;
  readonly now: () => number;
  readonly metrics?: Metrics | null;
  /** Where the data lie; null for data in memory. */
  readonly dataFolder?: string | null;
  readonly gate?: UploadGate;
  readonly fileChecks: FileChecks;
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

export interface App {
  readonly express: Express;
  /** Hangs up on those who listen for changes, so that the server can stop. */
  readonly hangUp: () => void;
}

/** Before something is kept: the app asks for several things. */
const LOOKS_A_NEWCOMER = 10;
const YEAR_S = 365 * 24 * 3600;

export function createApp({
  db,
  bytesFile,
  blobs,
  bytesWork,
  college,
  pdfFolder,
  config = {},
  log,
  now,
  metrics = null,
  dataFolder = null,
  gate = createUploadGate(),
  fileChecks,
  webFolder,
  workerFolder,
  readingFolders = [],
  practiceFolder,
  tableFolder,
}: AppOptions): App {
  const settings: Config = { ...new Config(), ...config };
  const demo = settings.DEMO;
  const owners = createOwnerRepository(db);
  const screens = createScreenRepository(db);
  const handIns = createHandInRepository(db);
  const originals = createOriginalRepository(db);
  const uploads = createUploadRepository(bytesFile, bytesWork);
  const boundFiles = createBoundFileRepository(db, blobs);
  const operations = createOperationRepository(db);
  const changes = createChangeRepository(db);
  const pictures = createPictureRepository(db);
  const usage = createUsageRepository(db, bytesFile, settings.QUOTA_MB * 1e6);
  const recovery = createRecoveryRepository(db);
  const office = createOfficeRepository(college.office);
  const events = createLiveEvents();
  const limits = createLimits();
  const signInGuard = createSignInGuard();
  const app = express();
  app.disable('x-powered-by');
  app.set('trust proxy', settings.TRUST_PROXY);
  setPublicAddress(app, settings.PUBLIC_URL);
  app.use(requestLog(log));
  if (metrics !== null) app.use(metrics.count);
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
      strictTransportSecurity: settings.PUBLIC_URL.startsWith('https:') && { maxAge: YEAR_S },
      // without any, a form of our own would seem to come from nowhere
      referrerPolicy: { policy: 'same-origin' },
    }),
  );
  // what is sent piece by piece must not wait to be packed
  app.use(
    compression({
      filter: (req, res) =>
        !String(res.getHeader('content-type')).startsWith('text/event-stream') && compression.filter(req, res),
    }),
  );
  app.use(healthRoutes({ db, blobs, bytesWork, dataFolder, metrics, metricsToken: settings.METRICS_TOKEN }));

  const welcomeDemo = createDemoWelcome(db, { handIns, originals, pictures, boundFiles, owners, changes, now });
  const demoOffice = createCollegeSession(office, 'office', now, signInGuard);
  const session = ownerSession({
    db,
    owners,
    screens,
    now,
    keepsLookers: demo,
    welcome: (ownerId, req) => {
      if (demo && welcomeDemo(ownerId)) demoOffice.give(req, office.openSession('office', DEMO_STUDENT.id, now()));
    },
  });
  const byOwner = limits.aMinute(settings.REQUESTS_A_MINUTE, 'Too many requests. Wait a minute.', ownerOf);
  const byAddress = limits.aMinute(
    LOOKS_A_NEWCOMER * settings.NEWCOMERS_A_MINUTE,
    'Too many requests from this address. Wait a minute.',
  );
  const beginning = limits.aMinute(
    settings.NEWCOMERS_A_MINUTE,
    'Too many people begin from this address at once. Wait a minute.',
  );
  const api = express.Router();
  api.use(
    cookieParser(),
    sameOrigin,
    (_req, res, next) => {
      // what is somebody's own is kept in no cache, unless a route says otherwise
      res.set('cache-control', 'private, no-store');
      next();
    },
    session.identify,
    (req, res, next) => void (isKnown(req) ? byOwner : byAddress)(req, res, next),
    (req, res, next) => void (session.begins(req) ? beginning(req, res, next) : next()),
    session.admit,
    express.json({ limit: '2mb', verify: refuseWildJson }),
  );
  api.use(changeRoutes({ changes, handIns, owners, screens }));
  api.use(
    handInRoutes({
      handIns,
      apply: createApplyOperations(db, { handIns, operations, originals, changes }),
      events,
      now,
    }),
  );
  api.use(originalRoutes({ originals, usage, uploads, blobs, fileChecks, now, gate }));
  api.use(pictureRoutes({ pictures, usage, blobs, fileChecks, now, gate }));
  api.use(boundFileRoutes({ boundFiles, handIns, usage, uploads, blobs, changes, events, now, gate }));
  api.use(screenRoutes({ screens, owners, changes, events, limits, now }));
  api.use(recoveryRoutes({ recovery, screens, owners, events, limits, now }));
  api.get('/openapi.json', (_req, res) => void res.json(openApi()));
  api.get('/practice-photos', (_req, res) => void res.json(listPhotos(practiceFolder, '/practice')));
  api.get('/practice-table', (_req, res) => void res.json(listPhotos(tableFolder, '/practice-table')));
  api.use((req) => {
    throw new FotoplanError('NOT_FOUND', `There is nothing at ${req.path}.`);
  });
  app.use('/api', api);
  if (demo) seedOffice(office, now());
  app.use('/office/api', officeRoutes({ office, fileChecks, now, demo, gate, signInGuard }));
  if (pdfFolder !== undefined) app.use('/office/pdfjs', express.static(pdfFolder, { index: false, maxAge: '1d' }));
  app.get('/office/showPages.js', (_req, res) => void res.type('text/javascript').send(SHOW_PAGES));
  app.use('/office', readerPages(office, now, signInGuard));
  app.use('/locker/api', lockerRoutes(college.locker, office, now, gate, signInGuard));
  app.use('/post/api', postRoutes(college.post, office, now, gate, signInGuard));
  if (practiceFolder !== undefined)
    app.use('/practice', express.static(practiceFolder, { maxAge: '1h', index: false }));
  if (tableFolder !== undefined)
    app.use('/practice-table', express.static(tableFolder, { maxAge: '1h', index: false }));
  for (const folder of readingFolders) app.use('/reading', express.static(folder, { maxAge: '1d', index: false }));
  if (workerFolder !== undefined) app.use('/workers', express.static(workerFolder, { index: false }));
  if (webFolder !== undefined) serveWeb(app, webFolder, demo);
  app.use(errorShape(log));
  const hangUp = (): void => {
    events.close();
    limits.stop();
  };
  return { express: app, hangUp };
}

function listPhotos(folder: string | undefined, address: string): PracticePhotosView {
  const names =
    folder !== undefined && existsSync(folder)
      ? readdirSync(folder)
          .filter((f) => f.endsWith('.jpg'))
          .sort()
      : [];
  return { photos: names.map((name) => ({ name, url: `${address}/${encodeURIComponent(name)}` })) };
}

/** The web export: hashed files for good, index.html for every address of the app. */
function serveWeb(app: Express, webFolder: string, demo: boolean): void {
  // scripts were packed when the app was built, tighter than could be done while somebody waits
  app.use(
    expressStaticGzip(webFolder, {
      index: false,
      enableBrotli: true,
      orderPreference: ['br'],
      serveStatic: {
        index: false,
        setHeaders: (res: ServerResponse, file: string) =>
          void res.setHeader(
            'cache-control',
            /[.-][0-9a-f]{16,}\./.test(file) ? 'public, max-age=31536000, immutable' : 'no-cache',
          ),
      },
    }),
  );
  // the service worker answers this; where there is none yet, the person is told what to do
  app.post('/share', (req, res) => {
    req.resume().on('end', () => res.redirect(303, '/shared?missed=1'));
  });
  app.get(
    /^\/(?!api\/|practice\/|practice-table\/|workers\/|reading\/|office|locker|post\/|_expo\/|assets\/)[^.]*$/,
    (req, res, next) => {
      // the kit's parts are for developers
      if (req.path === '/parts' && !demo) next();
      else res.set('cache-control', 'no-cache').sendFile(path.join(webFolder, 'index.html'));
    },
  );
}
