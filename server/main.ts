import { createServer, type Server } from 'node:http';
import { createServer as createSecureServer } from 'node:https';
import type { AddressInfo } from 'node:net';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import pino from 'pino';
import { toString as toQrText } from 'qrcode';
import { setting } from '../platform/node/setting';
import { createApp } from './createApp';
import { startBytesThread } from './blobs/bytesThread';
import { openBlobs } from './blobs/openBlobs';
import { openCollege } from './college/openCollege';
import { cleanUp } from './keeping/cleanUp';
import { startFileChecks } from './fileChecks/fileCheckPool';
import { openData } from './openData';
import { lanAddress, selfSigned } from './lan';

const FIRST_PORT = Number(setting('PORT') ?? 4310);
const dataFolder = setting('DATA_DIR') ?? 'data';
/** https for phones on the same network, which give no camera to a page that is not secure. */
const onLan = setting('LAN') === '1';

/** What is bundled beside this program. */
const script = (name: string): string => path.join(path.dirname(fileURLToPath(import.meta.url)), `${name}.mjs`);

const log = pino({ level: setting('LOG_LEVEL') ?? 'warn' });
const data = openData(dataFolder);
const { db, bytesFile } = data;
// the thread brings what was written into the file
db.pragma('wal_autocheckpoint = 20000');
const bytes = startBytesThread(script('bytesWorker'), dataFolder);
const blobs = openBlobs(data, bytes.work);
const fileChecks = startFileChecks(script('fileCheckWorker'));
const college = openCollege(dataFolder);
const { express: app, hangUp } = createApp({
  db,
  bytesFile,
  blobs,
  bytesWork: bytes.work,
  fileChecks,
  college,
  pdfFolder: path.resolve('node_modules/pdfjs-dist/legacy/build'),
  demo: setting('REAL_OFFICE') !== '1',
  log,
  now: Date.now,
  webFolder: path.resolve('dist/web'),
  workerFolder: path.resolve('dist/workers'),
  readingFolders: ['tesseract.js/dist', 'tesseract.js-core', '@tesseract.js-data/eng/4.0.0_best_int'].map((folder) => path.resolve('node_modules', folder)),
  practiceFolder: path.resolve(dataFolder, 'practice-photos'),
  tableFolder: path.resolve(dataFolder, 'practice-table'),
});

/** Listens on the port, or on the next free one. */
function listen(port: number, tries: number): Promise<Server> {
  return new Promise((resolve, reject) => {
    const server = identity === null ? createServer(app) : createSecureServer(identity, app);
    server.once('error', (error: NodeJS.ErrnoException) => {
      if (error.code === 'EADDRINUSE' && tries > 0) resolve(listen(port + 1, tries - 1));
      else reject(error);
    });
    server.listen(port, setting('HOST') ?? (onLan ? '0.0.0.0' : '127.0.0.1'), () => resolve(server));
  });
}

const CLEAN_UP_EVERY_MS = 6 * 3600 * 1000;
const tidy = (): void => {
  cleanUp(db, blobs, bytes.work, Date.now()).then(
    (done) => log.info(done, 'cleaned up'),
    (error: unknown) => log.error({ err: error }, 'cleaning up failed'),
  );
};
// not while the first visitors wait
setTimeout(tidy, 60_000).unref();
setInterval(tidy, CLEAN_UP_EVERY_MS).unref();

const identity = onLan ? await selfSigned(lanAddress()) : null;
const server = await listen(FIRST_PORT, 50);
const { port } = server.address() as AddressInfo;
if (!onLan) console.log(`Fotoplan is open at http://localhost:${port}`);
else {
  const address = `https://${lanAddress()}:${port}`;
  console.log(`Fotoplan is open at ${address}\nPoint the phone’s camera at this, then accept the certificate (this computer made it itself):\n`);
  console.log(await toQrText(address, { type: 'terminal', small: true }));
}
for (const signal of ['SIGINT', 'SIGTERM'] as const) {
  process.once(signal, () => {
    server.close(() => {
      void bytes.close();
      void fileChecks.close();
      for (const each of [db, bytesFile, ...Object.values(college)]) each.close();
      process.exit(0);
    });
    hangUp();
    server.closeIdleConnections();
    // a browser's kept-open connection must not hold the program up
    setTimeout(() => server.closeAllConnections(), 2000).unref();
  });
}
