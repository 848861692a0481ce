import { mkdtempSync, rmSync } from 'node:fs';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import path from 'node:path';
import S3rver from 's3rver';
import { openDatabase } from '../database';
import { newHandIn, newPage, samplePhoto, sendOperations, sendOriginal, sha256, startTestServer } from '../testServer';
import { createListedBlobs, type BlobStore } from './blobStore';
import { createS3Place } from './s3Place';
import { createSqliteBlobs } from './sqliteBlobs';

const folder = mkdtempSync(path.join(tmpdir(), 'fotoplan-s3-'));
const storage = new S3rver({ port: 0, address: '127.0.0.1', silent: true, directory: folder, configureBuckets: [{ name: 'originals', configs: [] }] });
let endpoint = '';
beforeAll(async () => {
  const { port } = (await storage.run()) as AddressInfo;
  endpoint = `http://127.0.0.1:${port}`;
});
afterAll(async () => {
  await storage.close();
  rmSync(folder, { recursive: true });
});

const db = openDatabase(':memory:');
const inBucket = (): BlobStore => createListedBlobs(db, createS3Place({ bucket: 'originals', endpoint, region: 'us-east-1', accessKeyId: 'S3RVER', secretAccessKey: 'S3RVER' }));
const whole = async (store: BlobStore, id: string): Promise<Buffer> => {
  const parts: Uint8Array[] = [];
  for await (const part of store.read(id)) parts.push(part);
  return Buffer.concat(parts);
};

describe.each([
  ['in SQLite', () => createSqliteBlobs(db)],
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
    await store.remove(id);
    expect(store.size(id)).toBe(0);
  });
});

it('the whole server works with bytes in a bucket', async () => {
  const own = openDatabase(':memory:');
  const server = await startTestServer({ db: own, blobs: createListedBlobs(own, createS3Place({ bucket: 'originals', endpoint, region: 'us-east-1', accessKeyId: 'S3RVER', secretAccessKey: 'S3RVER' })) });
  const mira = server.browser();
  const photo = await samplePhoto(140);
  expect((await sendOriginal(mira, photo)).status).toBe(201);
  expect((await sendOperations(mira, newHandIn('hand-in-1'), newPage('hand-in-1', 'page-one', sha256(photo)))).status).toBe(200);
  expect(Buffer.from(await (await mira(`/api/originals/${sha256(photo)}`)).arrayBuffer()).equals(photo)).toBe(true);
  expect(own.prepare('SELECT count(*) AS n FROM blob_chunk').get()).toEqual({ n: 0 });
  await server.close();
  own.close();
});
