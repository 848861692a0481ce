import { createHash } from 'node:crypto';
import type { Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import type { Express } from 'express';
import pino from 'pino';
import sharp from 'sharp';
import { wholePhotoRecipe } from '../core/work/recipe/plainRecipe';
import type { Operation } from '../core/work/hand-in/operation';
import { createApp, type AppOptions } from './createApp';
import { answerProblems } from './openApi/answerProblems';
import type { Database } from './database';
import { openData } from './openData';
import { openCollege } from './college/openCollege';
import { createInlineBytesWork } from './blobs/bytesWork';
import { inlineFileChecks } from './fileChecks/fileChecks';
import { openBlobs } from './blobs/openBlobs';

export const NOW_MS = 1_760_000_000_000;

/** A server on a free port over a database in memory, for tests. */
export interface TestServer {
  readonly db: Database;
  readonly bytesFile: Database;
  readonly app: Express;
  readonly url: string;
  /** A browser with a cookie jar of its own. */
  browser(): Browser;
  /** Another process over the same data; this one is gone. */
  restart(): Promise<TestServer>;
  close(): Promise<void>;
}

export type Browser = (path: string, init?: RequestInit) => Promise<Response>;

export async function startTestServer(options: Partial<AppOptions> = {}, data = openData(null)): Promise<TestServer> {
  const { db, bytesFile } = data;
  const bytesWork = createInlineBytesWork(bytesFile);
  const { express: app, hangUp } = createApp({
    db,
    bytesFile,
    bytesWork,
    blobs: openBlobs(data),
    college: openCollege(null),
    fileChecks: inlineFileChecks,
    log: pino({ level: 'silent' }),
    now: () => NOW_MS,
    ...options,
    config: { DEMO: true, ...options.config },
  });
  const server = await new Promise<Server>((resolve) => {
    const listening = app.listen(0, 'localhost', () => resolve(listening));
  });
  const hangUpAll = async (): Promise<void> => {
    hangUp();
    server.closeAllConnections();
    await new Promise((resolve) => server.close(resolve));
  };
  const url = `http://localhost:${(server.address() as AddressInfo).port}`;
  return {
    db,
    bytesFile,
    app,
    url,
    browser: () => {
      // cookies go where their path says
      const jar = new Map<string, { readonly value: string; readonly path: string }>();
      return async (path, init = {}) => {
        const cookie = [...jar]
          .filter(([, each]) => path.startsWith(each.path))
          .map(([name, { value }]) => `${name}=${value}`)
          .join('; ');
        const response = await fetch(`${url}${path}`, {
          ...init,
          headers: { ...(init.headers as Record<string, string>), cookie },
        });
        // every answer in every test is as the API's description says
        const problems = await answerProblems(init.method ?? 'GET', path, response);
        if (problems.length > 0) throw new Error(problems.join('\n'));
        for (const set of response.headers.getSetCookie()) {
          const [, name, value] = /^([^=]+)=([^;]*)/.exec(set)!;
          if (value === '') jar.delete(name!);
          else jar.set(name!, { value: value!, path: /path=([^;]+)/i.exec(set)?.[1] ?? '/' });
        }
        return response;
      };
    },
    restart: async () => {
      await hangUpAll();
      return startTestServer(options, data);
    },
    close: async () => {
      await hangUpAll();
      for (const each of [db, bytesFile]) each.close();
    },
  };
}

export const sha256 = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex');
export const samplePhoto = (shade: number, width = 300): Promise<Buffer> =>
  sharp({ create: { width, height: Math.round(1.414 * width), channels: 3, background: { r: shade, g: 90, b: 120 } } })
    .jpeg()
    .toBuffer();

let lastId = 0;
const stamp = (handInId: string): { id: string; handInId: string; atMs: number } => ({
  id: `operation-${++lastId}`,
  handInId,
  atMs: NOW_MS,
});

export const newHandIn = (handInId: string): Operation => ({
  ...stamp(handInId),
  kind: 'createHandIn',
  title: 'Set 4',
  paper: 'auto',
});
export const newPage = (handInId: string, pageId: string, originalId: string): Operation => ({
  ...stamp(handInId),
  kind: 'addPage',
  pageId,
  originalId,
  fileName: 'page.jpg',
  width: 300,
  height: 424,
  recipe: wholePhotoRecipe(300, 424, 'daylight'),
});
export const movedToFront = (handInId: string, pageId: string): Operation => ({
  ...stamp(handInId),
  kind: 'movePage',
  pageId,
  afterPageId: null,
});

export const sendOperations = (browser: Browser, ...operations: readonly unknown[]): Promise<Response> =>
  browser('/api/operations', {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ operations }),
  });
export const sendOriginal = (browser: Browser, bytes: Uint8Array, name = sha256(bytes)): Promise<Response> =>
  browser(`/api/originals/${name}`, { method: 'PUT', body: new Blob([bytes as Uint8Array<ArrayBuffer>]) });
