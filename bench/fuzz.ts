import { readFileSync } from 'node:fs';
import { PDFDocument } from '@cantoo/pdf-lib';
import fc from 'fast-check';
import sharp from 'sharp';
import { FotoplanError } from '../core/errors';
import type { Operation } from '../core/work/hand-in/operation';
import { openPdf } from '../core/work/pdf/openPdf';
import { checkPhotoFile } from '../core/work/photo/checkPhotoFile';
import { wholePhotoRecipe } from '../core/work/recipe/plainRecipe';
import { readRecipe } from '../core/work/recipe/recipe';
import { decodePhoto } from '../platform/node/decodePhoto';
import { startTestServer } from '../server/testServer';
import { validatedOperation } from '../server/validated';

/*
 * Throws malformed files, recipes, operations and requests at the core and the server. What is wrong may only be refused with
 * a FotoplanError or an HTTP status below 500, and within two seconds.
 */

const MOST_MS = 2000;

export interface FuzzReport {
  readonly kind: string;
  readonly cases: number;
  readonly refused: number;
  readonly slowestMs: number;
}

type Outcome = 'taken' | 'refused';

async function run<T>(
  kind: string,
  cases: number,
  arbitrary: fc.Arbitrary<T>,
  work: (value: T) => Outcome | Promise<Outcome>,
): Promise<FuzzReport> {
  let refused = 0;
  let slowestMs = 0;
  await fc.assert(
    fc.asyncProperty(arbitrary, async (value) => {
      const began = performance.now();
      if ((await work(value)) === 'refused') refused++;
      const ms = performance.now() - began;
      slowestMs = Math.max(slowestMs, ms);
      if (ms > MOST_MS) throw new Error(`${kind} took ${Math.round(ms)} ms`);
    }),
    { numRuns: cases },
  );
  return { kind, cases, refused, slowestMs: Math.round(slowestMs) };
}

/** Only our own refusals count as such: anything else is a crash. */
async function refusedBy(work: () => unknown): Promise<Outcome> {
  try {
    await work();
    return 'taken';
  } catch (error) {
    if (error instanceof FotoplanError) return 'refused';
    throw error;
  }
}

/** A whole file with bytes changed, cut off, doubled or put in. */
function damaged(whole: Uint8Array): fc.Arbitrary<Uint8Array> {
  const at = fc.nat({ max: whole.length - 1 });
  return fc.oneof(
    fc.array(fc.tuple(at, fc.nat({ max: 255 })), { minLength: 1, maxLength: 40 }).map((changes) => {
      const bytes = whole.slice();
      for (const [i, value] of changes) bytes[i] = value;
      return bytes;
    }),
    at.map((end) => whole.slice(0, end)),
    fc
      .tuple(at, at)
      .map(([a, b]) => new Uint8Array([...whole.slice(0, Math.max(a, b)), ...whole.slice(Math.min(a, b))])),
    fc
      .tuple(at, fc.uint8Array({ maxLength: 64 }))
      .map(([i, more]) => new Uint8Array([...whole.slice(0, i), ...more, ...whole.slice(i)])),
    fc.uint8Array({ maxLength: 400 }),
  );
}

/** A good value with something in it put out of shape. */
function bent(good: unknown): fc.Arbitrary<unknown> {
  const anything = fc.oneof(
    fc.anything({ maxDepth: 2 }),
    fc.constantFrom(null, '', -1, 1e308, '\u0000', '__proto__', [], {}, 'a'.repeat(5000)),
  );
  const paths = pathsOf(good);
  return fc.oneof(
    fc.tuple(fc.constantFrom(...paths), anything).map(([path, value]) => withAt(good, path, value)),
    fc.constantFrom(...paths).map((path) => withAt(good, path, undefined)),
    fc.anything({ maxDepth: 3 }),
  );
}
const pathsOf = (value: unknown, path: readonly string[] = []): string[][] =>
  typeof value !== 'object' || value === null
    ? [[...path]]
    : [[...path], ...Object.entries(value).flatMap(([key, each]) => pathsOf(each, [...path, key]))];
function withAt(value: unknown, [first, ...rest]: readonly string[], put: unknown): unknown {
  if (first === undefined) return put;
  if (Array.isArray(value))
    return value.map((each: unknown, i) => (String(i) === first ? withAt(each, rest, put) : each));
  return Object.fromEntries(
    Object.entries(value as object).map(([key, each]: [string, unknown]) => [
      key,
      key === first ? withAt(each, rest, put) : each,
    ]),
  );
}

/** @param share - of the 22,000 cases of a whole run */
export async function fuzz(share: number): Promise<FuzzReport[]> {
  const n = (cases: number): number => Math.max(5, Math.round(cases * share));
  const photo = { create: { width: 60, height: 84, channels: 3, background: '#dcd' } } as const;
  const files = await Promise.all([
    sharp(photo).jpeg().toBuffer(),
    sharp(photo).png().toBuffer(),
    sharp(photo).webp().toBuffer(),
    sharp(photo).tiff().toBuffer(),
    sharp(photo).avif().toBuffer(),
  ]);
  files.push(
    readFileSync('e2e/files/page.heic'),
    Buffer.from('69636e730000001869633130000000080000000000000000', 'hex'),
    Buffer.from('0000000c4a584c200d0a870a00000014667479706a786c20000000006a786c20', 'hex'),
  );
  const pdfMaker = await PDFDocument.create();
  for (let i = 0; i < 3; i++) pdfMaker.addPage([200, 300]).drawRectangle({ x: 9, y: 9, width: 50, height: 50 });
  const pdf = await pdfMaker.save({ useObjectStreams: false });
  const anyFile = fc.oneof(...[...files, pdf].map((file) => damaged(new Uint8Array(file))));
  const recipe = {
    ...wholePhotoRecipe(300, 424, 'daylight'),
    mends: [{ points: [{ x: 1, y: 2 }], radius: 3 }],
    marks: [{ id: 'm1', kind: 'pen', colour: '#112233', width: 0.01, points: [{ x: 0.1, y: 0.2 }] }],
  };
  const operation: Operation = {
    kind: 'addPage',
    id: 'operation-1',
    handInId: 'hand-in-1',
    atMs: 1,
    pageId: 'page-one',
    originalId: 'a'.repeat(64),
    fileName: 'a.jpg',
    width: 300,
    height: 424,
    recipe: recipe as never,
  };
  const reports = [
    await run('files checked', n(6000), anyFile, (bytes) => refusedBy(() => checkPhotoFile(bytes, 'a'))),
    await run(
      'pictures decoded',
      n(1500),
      fc.oneof(...files.slice(0, 3).map((file) => damaged(new Uint8Array(file)))),
      (bytes) => refusedBy(() => decodePhoto(bytes, 'a.jpg')),
    ),
    await run('PDFs opened', n(1500), damaged(pdf), (bytes) => refusedBy(() => openPdf(bytes))),
    await run('recipes read', n(6000), bent(recipe), (value) => refusedBy(() => readRecipe(value))),
    await run('operations checked', n(3000), bent(operation), (value) => refusedBy(() => validatedOperation(value))),
  ];
  const server = await startTestServer({ config: { REQUESTS_A_MINUTE: 1e6 } });
  try {
    const browser = server.browser();
    await browser('/api/changes?since=0');
    const path = fc.oneof(
      fc.constantFrom(
        '/api/operations',
        '/api/link',
        '/api/profile',
        '/api/originals/x',
        `/api/originals/${'a'.repeat(64)}`,
        `/api/originals/${'a'.repeat(64)}/parts/0`,
        `/api/originals/${'a'.repeat(64)}/done`,
        '/api/hand-ins/hand-in-1/bound-files/file-0001?name=a.pdf&pages=1&sha256=x&facts=%7B',
        '/api/screens/x',
        '/office/api/session',
        '/office/api/assignments/tides-set-4/submissions',
        '/office/enter',
        '/office/read/x/notes',
        '/locker/api/files',
        '/locker/api/folders',
        '/post/api/messages',
      ),
      fc.webPath().map((p) => `/api${p.startsWith('/') ? p : `/${p}`}`),
    );
    const body = fc.oneof(
      bent({ operations: [operation] }).map((value) => json(value)),
      fc.anything({ maxDepth: 3 }).map((value) => json(value)),
      fc.string({ maxLength: 300 }),
      fc.uint8Array({ maxLength: 2000 }).map((bytes) => Buffer.from(bytes)),
      damaged(
        new TextEncoder().encode(
          '--x\r\nContent-Disposition: form-data; name="key"\r\n\r\nkey-12345678\r\n--x\r\nContent-Disposition: form-data; name="file"; filename="a.pdf"\r\n\r\n%PDF-1.7\r\n--x--\r\n',
        ),
      ).map((bytes) => Buffer.from(bytes)),
    );
    const type = fc.constantFrom(
      'application/json',
      'multipart/form-data; boundary=x',
      'application/octet-stream',
      'application/x-www-form-urlencoded',
      'text/plain',
      'application/json; charset=nonsense',
    );
    const request = fc.record({ path, method: fc.constantFrom('GET', 'POST', 'PUT', 'DELETE', 'PATCH'), body, type });
    reports.push(
      await run('requests sent', n(7000), request, async (sent) => {
        const response = await browser(sent.path, {
          method: sent.method,
          headers: { 'content-type': sent.type },
          redirect: 'manual',
          ...(sent.method === 'GET' ? {} : { body: sent.body as string }),
        });
        await response.arrayBuffer();
        if (response.status >= 500) throw new Error(`${sent.method} ${sent.path} answered ${response.status}`);
        return response.status >= 400 ? 'refused' : 'taken';
      }),
    );
    // it still works
    if ((await browser('/api/changes?since=0')).status !== 200) throw new Error('the server does not answer any more');
  } finally {
    await server.close();
  }
  return reports;
}

/** Values that JSON cannot say are said as text. */
function json(value: unknown): string {
  try {
    return (
      JSON.stringify(value, (_, each: unknown) => (typeof each === 'bigint' ? String(each) : each)) ?? String(value)
    );
  } catch {
    return '{';
  }
}

export async function printFuzz(): Promise<void> {
  const reports = await fuzz(1);
  console.log('What was malformed, and what became of it (nothing crashed, hung or answered 500):');
  for (const { kind, cases, refused, slowestMs } of reports)
    console.log(
      `  ${kind.padEnd(20)} ${String(cases).padStart(6)} cases, ${String(refused).padStart(6)} refused, slowest ${slowestMs} ms`,
    );
  console.log(`  ${reports.reduce((sum, { cases }) => sum + cases, 0)} in all`);
}
