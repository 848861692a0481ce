import { mkdtempSync, readdirSync, rmSync } from 'node:fs';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import path from 'node:path';
import S3rver from 's3rver';
import { openData } from '../openData';
import { newHandIn, newPage, samplePhoto, sendOperations, sendOriginal, sha256, startTestServer } from '../testServer';
import { openDatabase } from '../database';
import { createUploadRepository } from '../repositories/uploadRepository';
import { BYTES_MIGRATIONS, openBytesFile } from './bytesFile';
import { createInlineBytesWork } from './bytesWork';
import { createListedBlobs, type BlobStore, type BytePlace } from './blobStore';
import { createS3Place } from './s3Place';
import { openBlobs } from './openBlobs';

const folder = mkdtempSync(path.join(tmpdir(), 'fotoplan-s3-'));
const storage = new S3rver({
  port: 0,
  address: '127.0.0.1',
  silent: true,
  directory: folder,
  configureBuckets: [{ name: 'originals', configs: [] }],
});
let endpoint = '';
beforeAll(async () => {
  const { port } = (await storage.run()) as AddressInfo;
  endpoint = `http://127.0.0.1:${port}`;
});
afterAll(async () => {
  await storage.close();
  rmSync(folder, { recursive: true });
});

const data = openData(null);
const { db } = data;
const inBucket = (): BlobStore =>
  createListedBlobs(
    db,
    createS3Place({
      bucket: 'originals',
      endpoint,
      region: 'us-east-1',
      accessKeyId: 'S3RVER',
      secretAccessKey: 'S3RVER',
    }),
  );
const loseAll = (): void => {
  data.bytesFile.prepare('DELETE FROM body').run();
  const bucket = path.join(folder, 'originals');
  for (const name of readdirSync(bucket)) rmSync(path.join(bucket, name), { recursive: true });
};
const whole = async (store: BlobStore, id: string): Promise<Buffer> => {
  const parts: Uint8Array[] = [];
  for await (const part of store.read(id)) parts.push(part);
  return Buffer.concat(parts);
};

describe.each([
  ['in SQLite', () => openBlobs(data)],
  ['in S3-compatible storage', inBucket],
])('bytes %s', (name, open) => {
  const bytes = Buffer.alloc(2_500_000, name);
  const id = sha256(bytes);

  it('come back whole, are kept once, and go when they are to go', async () => {
    const store = open();
    expect(store.size(id)).toBe(0);
    await store.put(id, bytes, 1);
    await store.put(id, bytes, 2);
    expect(store.size(id)).toBe(bytes.length);
    expect((await whole(store, id)).equals(bytes)).toBe(true);
    expect(db.prepare('SELECT put_at_ms FROM blob WHERE sha256 = ?').get(id)).toEqual({ put_at_ms: 2 });
    expect(await store.removeUnreferred(2)).toBe(0);
    expect(await store.removeUnreferred(Date.now() + 10_000)).toBe(1);
    expect(store.size(id)).toBe(0);
    expect(await whole(store, id)).toHaveLength(0);
  });

  it('come back whole where they came in pieces', async () => {
    const store = open();
    const large = Buffer.from(Array.from({ length: 12_300_000 }, (_, i) => i % 251));
    async function* pieces(): AsyncGenerator<Uint8Array> {
      for (let at = 0; at < large.length; at += 1 << 20)
        yield await Promise.resolve(large.subarray(at, at + (1 << 20)));
    }
    await store.putPieces(sha256(large), large.length, pieces, 1);
    await store.putPieces(sha256(large), large.length, pieces, 1);
    expect([
      store.size(sha256(large)),
      await store.holds(sha256(large)),
      (await whole(store, sha256(large))).equals(large),
    ]).toEqual([large.length, true, true]);
    expect(await store.removeUnreferred(Date.now() + 10_000)).toBe(1);
  });

  it('that are missing though they are listed are kept again when they come again', async () => {
    const store = open();
    const other = Buffer.alloc(1_500_000, `lost ${name}`);
    await store.put(sha256(other), other, 1);
    loseAll();
    expect([(await whole(store, sha256(other))).length, await store.holds(sha256(other))]).toEqual([0, false]);
    await store.put(sha256(other), other, 2);
    expect((await whole(store, sha256(other))).equals(other)).toBe(true);
    expect(await store.removeUnreferred(3)).toBe(1);
  });
});

it('an upload while the same bytes are being let go waits, and is kept', async () => {
  const kept = new Map<string, Uint8Array>();
  let letGo = (): void => undefined;
  const going = new Promise<void>((resolve) => (letGo = resolve));
  const slow: BytePlace = {
    holds: (id) => Promise.resolve(kept.has(id)),
    write: (id, bytes) => Promise.resolve(void kept.set(id, bytes)),
    writePieces: () => Promise.reject(new Error('not written in pieces here')),
    read: () => {
      throw new Error('not read here');
    },
    // as a bucket does, which knows nothing of times
    remove: async (id) => {
      await going;
      kept.delete(id);
    },
    ownWrittenBefore: () => [],
  };
  const store = createListedBlobs(openData(null).db, slow);
  await store.put('a'.repeat(64), Buffer.from('a photo'), 1);
  const cleaning = store.removeUnreferred(1000);
  const again = store.put('a'.repeat(64), Buffer.from('a photo'), 2000);
  letGo();
  await Promise.all([cleaning, again]);
  expect([store.size('a'.repeat(64)), kept.has('a'.repeat(64))]).toEqual([7, true]);
});

describe('bytes that were written but never listed, as a crash between the two leaves them', () => {
  const bytes = Buffer.alloc(2_500_000, 'stray');
  const id = sha256(bytes);
  const leftBy = async (store: BlobStore): Promise<number> => {
    await store.put(id, bytes, 1);
    db.prepare('DELETE FROM blob').run();
    expect(await store.removeUnreferred(Date.now() + 10_000)).toBe(0);
    return (await whole(store, id)).length;
  };

  it('go in the end from the file that is this server’s own', async () => {
    expect(await leftBy(openBlobs(data))).toBe(0);
  });

  it('stay in a bucket, where another server may refer to them', async () => {
    expect(await leftBy(inBucket())).toBe(bytes.length);
  });
});

it('the whole server works with bytes in a bucket', async () => {
  const { db: own, bytesFile } = openData(null);
  const server = await startTestServer({
    db: own,
    blobs: createListedBlobs(
      own,
      createS3Place({
        bucket: 'originals',
        endpoint,
        region: 'us-east-1',
        accessKeyId: 'S3RVER',
        secretAccessKey: 'S3RVER',
      }),
    ),
  });
  const mira = server.browser();
  const photo = await samplePhoto(140);
  expect((await sendOriginal(mira, photo)).status).toBe(201);
  expect(
    (await sendOperations(mira, newHandIn('hand-in-1'), newPage('hand-in-1', 'page-one', sha256(photo)))).status,
  ).toBe(200);
  expect(Buffer.from(await (await mira(`/api/originals/${sha256(photo)}`)).arrayBuffer()).equals(photo)).toBe(true);
  expect(bytesFile.prepare('SELECT count(*) AS n FROM chunk').get()).toEqual({ n: 0 });
  await server.close();
  own.close();
});

it('bytes of a file made by an earlier version are all there, and found without reading them', async () => {
  const file = path.join(folder, 'earlier.sqlite');
  const earlier = openDatabase(file, BYTES_MIGRATIONS.slice(0, 1));
  const photo = Buffer.alloc(2_500_000, 'earlier');
  const work = createInlineBytesWork(earlier);
  await work.write(sha256(photo), photo, 1);
  await work.part('mira', sha256(photo), 0, Buffer.from('a part'), 1);
  earlier.close();
  const bytesFile = openBytesFile(file);
  expect((await whole(openBlobs({ db: openData(null).db, bytesFile }), sha256(photo))).equals(photo)).toBe(true);
  const uploads = createUploadRepository(bytesFile, createInlineBytesWork(bytesFile));
  expect(uploads.parts('mira', sha256(photo))).toEqual([0]);
  for (const table of ['chunk', 'upload_part'])
    expect(bytesFile.prepare(`EXPLAIN QUERY PLAN SELECT 1 FROM ${table} WHERE sha256 = 'a'`).all()).toEqual([
      expect.objectContaining({ detail: expect.stringMatching(/INDEX sqlite_autoindex/) as string }),
    ]);
  bytesFile.close();
});

it('a store that cannot be reached is said so, and is no fault of the server', async () => {
  const own = openData(null);
  const away = createS3Place({
    bucket: 'originals',
    endpoint: 'http://127.0.0.1:9',
    region: 'us-east-1',
    accessKeyId: 'S3RVER',
    secretAccessKey: 'S3RVER',
  });
  const server = await startTestServer({ db: own.db, blobs: createListedBlobs(own.db, away) });
  const answer = await sendOriginal(server.browser(), await samplePhoto(141));
  expect([answer.status, ((await answer.json()) as { code: string }).code]).toEqual([503, 'STORE_UNREACHABLE']);
  await server.close();
});
