import { execFileSync } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import { mkdirSync, rmSync, statfsSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import sharp from 'sharp';
import { FaultyServer } from './faultyServer';
import { sha256 } from './worker';

const DISK_MB = 48;

/**
 * A server on a small disk that fills up: reading goes on, writing is refused with 507, the process lives, and once there is room
 * again it writes as before, by itself.
 * @returns what did not hold; null where this machine does not let a disk be made
 */
export async function fullDisk(port: number, folder: string): Promise<readonly string[] | null> {
  const disk = path.join(folder, 'small-disk');
  mkdirSync(disk);
  try {
    execFileSync('mount', ['-t', 'tmpfs', '-o', `size=${DISK_MB}m`, 'tmpfs', disk], { stdio: 'ignore' });
  } catch {
    return null;
  }
  const failures: string[] = [];
  const server = new FaultyServer(port, path.join(disk, 'data'), { DEMO: '0' });
  try {
    await server.start();
    let cookie = '';
    const send = async (at: string, init: RequestInit = {}): Promise<Response> => {
      const response = await fetch(`${server.url}${at}`, {
        ...init,
        headers: { ...(init.headers as Record<string, string>), cookie },
      });
      cookie = response.headers.getSetCookie()[0]?.split(';')[0] ?? cookie;
      return response;
    };
    const expectStatus = async (what: string, response: Promise<Response>, status: number): Promise<Response> => {
      const answer = await response;
      if (answer.status !== status) failures.push(`${what}: ${answer.status} in the place of ${status}`);
      return answer;
    };
    const start = await sharp({ create: { width: 300, height: 424, channels: 3, background: '#dcd' } })
      .jpeg()
      .toBuffer();
    const photo = (): Buffer => Buffer.concat([start, randomBytes(2_000_000)]);
    const put = (bytes: Buffer): Promise<Response> =>
      send(`/api/originals/${sha256(bytes)}`, { method: 'PUT', body: bytes as never });
    const kept = photo();
    await expectStatus('a photo while there is room', put(kept), 201);
    const ballast = path.join(disk, 'ballast');
    const { bavail, bsize } = statfsSync(disk);
    writeFileSync(ballast, Buffer.alloc(bavail * bsize - 100_000));
    const refused = await expectStatus('a photo on the full disk', put(photo()), 507);
    const { code } = (await refused.json()) as { code?: string };
    if (code !== 'SERVER_FULL') failures.push(`the refusal is ${String(code)}`);
    const back = await expectStatus('reading on the full disk', send(`/api/originals/${sha256(kept)}`), 200);
    if (sha256(Buffer.from(await back.arrayBuffer())) !== sha256(kept))
      failures.push('what was read is not what was kept');
    await expectStatus('alive on the full disk', send('/livez'), 200);
    await expectStatus('ready on the full disk', send('/readyz'), 503);
    rmSync(ballast);
    await expectStatus('a photo with room again', put(photo()), 201);
  } finally {
    if ((await server.stop()) !== 0) failures.push('the server on the full disk did not end well');
    execFileSync('umount', [disk]);
  }
  console.log(
    `disk filled up and emptied again: ${failures.length === 0 ? 'refused with 507, read on, recovered' : 'failed'}`,
  );
  return failures;
}
