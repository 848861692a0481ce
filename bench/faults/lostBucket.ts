import { randomBytes } from 'node:crypto';
import path from 'node:path';
import S3rver from 's3rver';
import sharp from 'sharp';
import { FaultyServer } from './faultyServer';
import { sha256 } from './worker';

/**
 * A server whose bucket goes away and comes back: what cannot be kept is refused with 503, the process lives, and afterwards
 * everything is there.
 * @returns what did not hold
 */
export async function lostBucket(port: number, folder: string): Promise<readonly string[]> {
  const failures: string[] = [];
  const storePort = port + 1;
  const openStore = async (): Promise<S3rver> => {
    const store = new S3rver({
      port: storePort,
      address: '127.0.0.1',
      silent: true,
      directory: path.join(folder, 'bucket'),
      configureBuckets: [{ name: 'photos' }],
    });
    await store.run();
    return store;
  };
  let store = await openStore();
  const server = new FaultyServer(port, path.join(folder, 'bucket-data'), {
    DEMO: '0',
    BLOB_BUCKET: 'photos',
    S3_ENDPOINT: `http://127.0.0.1:${storePort}`,
    S3_ACCESS_KEY_ID: 'S3RVER',
    S3_SECRET_ACCESS_KEY: 'S3RVER',
  });
  await server.start();
  let cookie = '';
  const send = async (bytes: Buffer, method: 'PUT' | 'GET'): Promise<Response> => {
    const response = await fetch(`${server.url}/api/originals/${sha256(bytes)}`, {
      method,
      headers: { cookie },
      ...(method === 'PUT' ? { body: bytes as never } : {}),
    });
    cookie = response.headers.getSetCookie()[0]?.split(';')[0] ?? cookie;
    return response;
  };
  const start = await sharp({ create: { width: 300, height: 424, channels: 3, background: '#dcd' } })
    .jpeg()
    .toBuffer();
  const [before, meanwhile] = [0, 1].map(() => Buffer.concat([start, randomBytes(1_000_000)]));
  const statuses = [(await send(before!, 'PUT')).status];
  await store.close();
  statuses.push((await send(meanwhile!, 'PUT')).status, (await send(before!, 'GET')).status);
  store = await openStore();
  statuses.push((await send(meanwhile!, 'PUT')).status);
  if (statuses.join() !== '201,503,503,201') failures.push(`the bucket gone and back: answered ${statuses.join(', ')}`);
  for (const photo of [before!, meanwhile!])
    if (sha256(Buffer.from(await (await send(photo, 'GET')).arrayBuffer())) !== sha256(photo))
      failures.push('a photo in the bucket is not as it was sent');
  if ((await server.stop()) !== 0) failures.push('the server with the bucket did not end well');
  await store.close();
  console.log(`bucket gone and back: ${failures.length === 0 ? 'refused with 503, nothing lost' : 'failed'}`);
  return failures;
}
