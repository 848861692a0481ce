import { createServer, type Server } from 'node:http';
import { READ_LANGUAGES } from '../core/work/words/readLanguages';
import { createServer as createSecureServer } from 'node:https';
import type { AddressInfo } from 'node:net';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import pino from 'pino';
import { toString as toQrText } from 'qrcode';
import { startBytesThread } from './blobs/bytesThread';
import { openBlobs } from './blobs/openBlobs';
import { openCollege } from './college/openCollege';
import { readConfig, type Config } from './config/config';
import { createApp } from './createApp';
import { startFileChecks } from './fileChecks/fileCheckPool';
import { installationProblem } from './installation';
import { cleanUp } from './keeping/cleanUp';
import { holdDataFolder } from './keeping/dataFolderLock';
import { lanAddress, selfSigned } from './lan';
import { createMetrics } from './observability/metrics';
import { createOfficeRepository } from './office/officeRepository';
import { openData } from './openData';

const TRIED_PORTS = 50;
const CLEAN_UP_EVERY_MS = 6 * 3600 * 1000;
/** Requests under way have this long to end when the server is stopped; then they are cut off, and whoever sent them sends them again. */
const LAST_REQUESTS_MS = 5000;
const STOP_WITHIN_MS = 8000;

/** Stops the start, with a sentence and no stack. */
function refuse(why: string): never {
  console.error(why);
  process.exit(1);
}

function orRefuse<T>(work: () => T): T {
  try {
    return work();
  } catch (error) {
    return refuse((error as Error).message);
  }
}

/** What is bundled beside this program. */
const script = (name: string): string => path.join(path.dirname(fileURLToPath(import.meta.url)), `${name}.mjs`);
/** What the program brings along, wherever it is started. */
const own = (...parts: string[]): string => path.resolve(path.dirname(fileURLToPath(import.meta.url)), '..', ...parts);

const config: Config = orRefuse(() => readConfig(process.env));
const dataFolder = path.resolve(config.DATA_DIR);
const letGo = orRefuse(() => holdDataFolder(dataFolder));
const log = pino({ level: config.LOG_LEVEL });
const data = orRefuse(() => openData(dataFolder));
const { db, bytesFile } = data;
const college = orRefuse(() => openCollege(dataFolder));
// the thread brings what was written into the files
for (const each of [db, bytesFile]) each.pragma(`wal_autocheckpoint = ${config.CHECKPOINTS ? 20_000 : 0}`);
const bytes = startBytesThread(script('bytesWorker'), dataFolder, config.CHECKPOINTS, (error) =>
  log.error({ err: error }, 'the log could not be brought into the file'),
);
const blobs = openBlobs(data, config, bytes.work);
const problem = await installationProblem({
  data,
  office: createOfficeRepository(college.office),
  blobs,
  demo: config.DEMO,
  allowsMissingBytes: config.ALLOW_MISSING_BYTES,
});
if (problem !== null) refuse(problem);
const fileChecks = startFileChecks(script('fileCheckWorker'));
const metrics = createMetrics();
const { express: app, hangUp } = createApp({
  db,
  bytesFile,
  blobs,
  bytesWork: bytes.work,
  fileChecks,
  college,
  pdfFolder: own('node_modules/pdfjs-dist/legacy/build'),
  config,
  dataFolder,
  metrics,
  log,
  now: Date.now,
  webFolder: own('dist/web'),
  workerFolder: own('dist/workers'),
  readingFolders: [
    'tesseract.js/dist',
    'tesseract.js-core',
    ...Object.values(READ_LANGUAGES).map((language) => `@tesseract.js-data/${language}/4.0.0_best_int`),
  ].map((folder) => own('node_modules', folder)),
  practiceFolder: path.join(dataFolder, 'practice-photos'),
  tableFolder: path.join(dataFolder, 'practice-table'),
});

/** Listens on the port, or on the next free one. */
function listen(port: number, tries: number): Promise<Server> {
  return new Promise((resolve, reject) => {
    const server = identity === null ? createServer(app) : createSecureServer(identity, app);
    server.once('error', (error: NodeJS.ErrnoException) => {
      if (error.code === 'EADDRINUSE' && tries > 0) resolve(listen(port + 1, tries - 1));
      else reject(error);
    });
    server.listen(port, config.HOST === '' ? (config.LAN ? '0.0.0.0' : '127.0.0.1') : config.HOST, () =>
      resolve(server),
    );
  });
}

const tidy = (): void => {
  cleanUp({ db, college, blobs, bytesWork: bytes.work }, Date.now()).then(
    (done) => log.info(done, 'cleaned up'),
    (error: unknown) => log.error({ err: error }, 'cleaning up failed'),
  );
};
// not while the first visitors wait
setTimeout(tidy, 60_000).unref();
setInterval(tidy, CLEAN_UP_EVERY_MS).unref();

/** https for phones on the same network, which give no camera to a page that is not secure. */
const identity = config.LAN ? await selfSigned(lanAddress()) : null;
const server = await listen(config.PORT, TRIED_PORTS).catch((error: unknown) =>
  refuse(`The server cannot listen at ${config.HOST}:${config.PORT}: ${(error as Error).message}`),
);
const { port } = server.address() as AddressInfo;
if (!config.LAN)
  console.log(`Fotoplan is open at ${config.PUBLIC_URL === '' ? `http://localhost:${port}` : config.PUBLIC_URL}`);
else {
  const address = `https://${lanAddress()}:${port}`;
  console.log(
    `Fotoplan is open at ${address}\nPoint the phone’s camera at this, then accept the certificate (this computer made it itself):\n`,
  );
  console.log(await toQrText(address, { type: 'terminal', small: true }));
}

let stopping = false;
async function stop(): Promise<void> {
  if (stopping) return;
  stopping = true;
  // whatever hangs, the process ends
  setTimeout(() => process.exit(1), STOP_WITHIN_MS).unref();
  const closed = new Promise((resolve) => server.close(resolve));
  hangUp();
  server.closeIdleConnections();
  setTimeout(() => server.closeAllConnections(), LAST_REQUESTS_MS).unref();
  await closed;
  await Promise.all([bytes.close(), fileChecks.close()]);
  for (const each of [db, bytesFile, ...Object.values(college)]) each.close();
  letGo();
  process.exit(0);
}
for (const signal of ['SIGINT', 'SIGTERM'] as const) process.on(signal, () => void stop());
