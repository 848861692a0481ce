import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import path from 'node:path';
import pino from 'pino';
import { setting } from '../platform/node/setting';
import { createApp } from './createApp';
import { openDatabase } from './database';

const FIRST_PORT = Number(setting('PORT') ?? 4310);
const dataFolder = setting('DATA_DIR') ?? 'data';

const log = pino({ level: setting('LOG_LEVEL') ?? 'warn' });
const db = openDatabase(path.join(dataFolder, 'fotoplan.sqlite'));
const app = createApp({
  db,
  log,
  now: Date.now,
  webFolder: path.resolve('dist/web'),
  workerFolder: path.resolve('dist/workers'),
  practiceFolder: path.resolve(dataFolder, 'practice-photos'),
  tableFolder: path.resolve(dataFolder, 'practice-table'),
});

/** Listens on the port, or on the next free one. */
function listen(port: number, tries: number): Promise<Server> {
  return new Promise((resolve, reject) => {
    const server = createServer(app);
    server.once('error', (error: NodeJS.ErrnoException) => {
      if (error.code === 'EADDRINUSE' && tries > 0) resolve(listen(port + 1, tries - 1));
      else reject(error);
    });
    server.listen(port, setting('HOST') ?? '127.0.0.1', () => resolve(server));
  });
}

const server = await listen(FIRST_PORT, 50);
console.log(`Fotoplan is open at http://localhost:${(server.address() as AddressInfo).port}`);
for (const signal of ['SIGINT', 'SIGTERM'] as const) {
  process.once(signal, () => {
    server.close(() => {
      db.close();
      process.exit(0);
    });
    server.closeIdleConnections();
    // a browser's kept-open connection must not hold the program up
    setTimeout(() => server.closeAllConnections(), 2000).unref();
  });
}
