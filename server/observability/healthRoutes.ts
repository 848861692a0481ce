import { createHash, timingSafeEqual } from 'node:crypto';
import { statfs } from 'node:fs/promises';
import { Router, type RequestHandler } from 'express';
import { FotoplanError } from '../../core/errors';
import { version } from '../../package.json';
import type { BlobStore } from '../blobs/blobStore';
import type { BytesWork } from '../blobs/bytesWork';
import type { Database } from '../database';
import type { Metrics } from './metrics';

export interface HealthServices {
  readonly db: Database;
  readonly blobs: BlobStore;
  readonly bytesWork: Pick<BytesWork, 'ping'>;
  /** Null for data in memory. */
  readonly dataFolder: string | null;
  readonly metrics: Metrics | null;
  /** Who may read the metrics; empty: nobody. */
  readonly metricsToken: string;
}

const PATIENCE_MS = 2000;
const LEAST_DISK_BYTES = 200_000_000;
/** However often it is asked, the parts are looked at this often. */
const LOOKED_AT_EVERY_MS = 1000;

/** For whoever watches the server: is it alive, can it work, and how is it doing. */
export function healthRoutes({ db, blobs, bytesWork, dataFolder, metrics, metricsToken }: HealthServices): Router {
  const router = Router();
  // a real table, so that a damaged file shows
  const newest = db.prepare<[], { sha256: string }>('SELECT sha256 FROM blob ORDER BY put_at_ms DESC LIMIT 1');
  const tables = ['owner', 'screen', 'hand_in', 'page', 'change'].map((table) =>
    db.prepare(`SELECT * FROM ${table} ORDER BY 1 DESC LIMIT 1`),
  );
  const parts: Readonly<Record<string, () => Promise<boolean>>> = {
    database: () => Promise.resolve(tables.every((table) => table.all().length >= 0)),
    bytes: async () => {
      const row = newest.get();
      return row === undefined || blobs.holds(row.sha256);
    },
    disk: async () => {
      if (dataFolder === null) return true;
      const { bavail, bsize } = await statfs(dataFolder);
      return bavail * bsize > LEAST_DISK_BYTES;
    },
    thread: () => bytesWork.ping().then(() => true),
  };
  let lookedAtMs = -Infinity;
  let looked: Promise<Readonly<Record<string, 'ok' | 'failing'>>>;
  const look = (): typeof looked => {
    if (performance.now() - lookedAtMs < LOOKED_AT_EVERY_MS) return looked;
    lookedAtMs = performance.now();
    const states = Object.entries(parts).map(
      async ([name, isFine]) => [name, (await inTime(isFine).catch(() => false)) ? 'ok' : 'failing'] as const,
    );
    looked = Promise.all(states).then((all) => Object.fromEntries(all));
    return looked;
  };
  const fresh: RequestHandler = (_req, res, next) => {
    res.set('cache-control', 'no-store');
    next();
  };
  router.get('/livez', fresh, (_req, res) => void res.json({ alive: true, version }));
  router.get('/readyz', fresh, async (_req, res) => {
    const states = await look();
    const ready = Object.values(states).every((state) => state === 'ok');
    res.status(ready ? 200 : 503).json({ ready, ...states });
  });
  const hash = (text: string): Buffer => createHash('sha256').update(text).digest();
  router.get('/metrics', fresh, async (req, res, next) => {
    const given = /^Bearer (.+)$/.exec(req.get('authorization') ?? '')?.[1] ?? '';
    if (metrics === null || metricsToken === '' || !timingSafeEqual(hash(given), hash(metricsToken))) return next();
    res.set('content-type', metrics.registry.contentType).send(await metrics.registry.metrics());
  });
  // what asks under a name that is not ours must not be told that all is well
  router.get(
    ['/livez', '/readyz', '/metrics', '/health', '/healthz', '/ready', '/live', '/status', '/ping'].flatMap((path) => [
      path,
      `${path}/*rest`,
    ]),
    (req) => {
      throw new FotoplanError('NOT_FOUND', `There is nothing at ${req.path}.`);
    },
  );
  return router;
}

function inTime(work: () => Promise<boolean>): Promise<boolean> {
  return new Promise((resolve, reject) => {
    const timer = setTimeout(() => resolve(false), PATIENCE_MS);
    new Promise<boolean>((begin) => begin(work())).then(resolve, reject).finally(() => clearTimeout(timer));
  });
}
