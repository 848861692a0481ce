import { spawn, type ChildProcess } from 'node:child_process';
import { chmodSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { request } from 'node:https';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { chromium, expect, test, type Browser, type Page } from '@playwright/test';
import S3rver from 's3rver';
import { TEST_BROWSER, beenAt } from '../playwright.config';
import { needProgram } from '../scripts/programs';
import { selfSigned } from '../server/lan';
import { photoNamed } from './photos';
import { addPhotos, allSaved, tiles } from './steps';

/*
 * As deploy/ sets it up: nginx with TLS before two cohorts, whose photos lie in S3-compatible storage. deploy/nginx.conf itself is
 * used, with this computer's ports in the place of the containers' names.
 */

const COHORTS = [
  { name: 'botany', port: 4381 },
  { name: 'tides', port: 4382 },
] as const;
const TLS_PORT = 4383;
const PLAIN_PORT = 4384;
const NEWCOMERS_A_MINUTE = 60;
const addressOf = (name: string): string => `https://${name}.fotoplan.skerry.example:${TLS_PORT}`;

test.describe('behind nginx with TLS', () => {
  const folder = mkdtempSync(path.join(tmpdir(), 'fotoplan-proxy-'));
  const running: ChildProcess[] = [];
  let storage: S3rver;
  let browser: Browser;

  test.beforeAll(async () => {
    test.setTimeout(120_000);
    const { key, cert } = await selfSigned('localhost');
    mkdirSync(path.join(folder, 'buckets'));
    // nginx's workers are nobody
    chmodSync(folder, 0o755);
    writeFileSync(path.join(folder, 'key.pem'), key);
    writeFileSync(path.join(folder, 'cert.pem'), cert);
    storage = new S3rver({
      port: 0,
      address: '127.0.0.1',
      silent: true,
      directory: path.join(folder, 'buckets'),
      configureBuckets: COHORTS.map(({ name }) => ({ name: `${name}-photos`, configs: [] })),
    });
    const { port } = (await storage.run()) as AddressInfo;
    for (const cohort of COHORTS) {
      const settings = {
        PORT: cohort.port,
        DATA_DIR: path.join(folder, cohort.name),
        PUBLIC_URL: addressOf(cohort.name),
        TRUST_PROXY: 1,
        NEWCOMERS_A_MINUTE,
        LOG_LEVEL: 'warn',
        BLOB_BUCKET: `${cohort.name}-photos`,
        S3_ENDPOINT: `http://127.0.0.1:${port}`,
        S3_ACCESS_KEY_ID: 'S3RVER',
        S3_SECRET_ACCESS_KEY: 'S3RVER',
      };
      running.push(
        spawn(process.execPath, ['dist/server.mjs'], {
          env: {
            ...process.env,
            ...Object.fromEntries(Object.entries(settings).map(([name, value]) => [name, String(value)])),
          },
          stdio: ['ignore', 'ignore', 'inherit'],
        }),
      );
    }
    for (const cohort of COHORTS)
      await expect
        .poll(
          () =>
            fetch(`http://127.0.0.1:${cohort.port}/livez`).then(
              ({ ok }) => ok,
              () => false,
            ),
          { timeout: 60_000 },
        )
        .toBe(true);
    let config = readFileSync('deploy/nginx.conf', 'utf8');
    for (const { name, port: own } of COHORTS)
      config = config.replace(`server ${name}:4310`, `server 127.0.0.1:${own}`);
    config = config
      .replaceAll('listen 443 ssl', `listen 127.0.0.1:${TLS_PORT} ssl`)
      .replace('listen 80 ', `listen 127.0.0.1:${PLAIN_PORT} `)
      .replaceAll('/etc/fotoplan/tls', folder)
      .replaceAll('/tmp/nginx', path.join(folder, 'nginx'));
    writeFileSync(path.join(folder, 'nginx.conf'), config);
    running.push(
      spawn(needProgram('nginx'), ['-c', path.join(folder, 'nginx.conf'), '-p', folder, '-g', 'daemon off;'], {
        stdio: ['ignore', 'ignore', 'inherit'],
      }),
    );
    for (const { name } of COHORTS)
      await expect
        .poll(
          () =>
            ask(name, '/livez').then(
              ({ status }) => status,
              () => 0,
            ),
          { timeout: 60_000 },
        )
        .toBe(200);
    browser = await chromium.launch({
      ...TEST_BROWSER,
      args: [...TEST_BROWSER.args, '--host-resolver-rules=MAP *.fotoplan.skerry.example 127.0.0.1'],
    });
  });
  test.afterAll(async () => {
    await browser?.close();
    const ended = running.map((child) => new Promise((resolve) => child.once('exit', resolve)));
    for (const child of running) child.kill('SIGTERM');
    await Promise.all(ended);
    await storage.close();
    rmSync(folder, { recursive: true, force: true });
  });

  interface Asked {
    readonly from?: string;
    readonly method?: string;
    readonly headers?: Readonly<Record<string, string>>;
    readonly body?: string;
  }
  /** A request of somebody at an address of their own; on this computer all of 127.0.0.0/8 is. */
  function ask(
    name: string,
    at: string,
    { from = '127.0.0.1', method = 'GET', headers = {}, body = '' }: Asked = {},
  ): Promise<{ status: number; cookies: readonly string[] }> {
    return new Promise((resolve, reject) => {
      const host = new URL(addressOf(name)).host;
      const sending = request(
        {
          host: '127.0.0.1',
          port: TLS_PORT,
          servername: host.split(':')[0],
          path: at,
          method,
          localAddress: from,
          rejectUnauthorized: false,
          headers: { host, ...headers },
        },
        (answer) => {
          answer.resume();
          answer.once('end', () =>
            resolve({ status: answer.statusCode!, cookies: answer.headers['set-cookie'] ?? [] }),
          );
        },
      );
      sending.once('error', reject);
      sending.end(body);
    });
  }
  const open = async (name: string): Promise<Page> => {
    const page = await (
      await browser.newContext({
        viewport: { width: 390, height: 844 },
        baseURL: addressOf(name),
        storageState: beenAt(addressOf(name)),
        ignoreHTTPSErrors: true,
      })
    ).newPage();
    await page.goto('/');
    return page;
  };

  test('photos go up into the bucket, screens are linked, and the other cohort sees nothing', async () => {
    test.setTimeout(180_000);
    const phone = await open('botany');
    await phone.getByRole('button', { name: 'Start a new hand-in' }).click();
    await addPhotos(phone, [photoNamed('botany-1')]);
    await expect(tiles(phone)).toHaveCount(1, { timeout: 60_000 });
    await allSaved(phone);
    const cookies = await phone.context().cookies();
    expect(cookies.map(({ name, secure, httpOnly, sameSite }) => [name, secure, httpOnly, sameSite])).toEqual([
      ['fotoplan_owner', true, true, 'Strict'],
    ]);
    const kept = readdirSync(path.join(folder, 'buckets', 'botany-photos'), {
      recursive: true,
      withFileTypes: true,
    }).filter((entry) => entry.isFile());
    expect(kept.length).toBeGreaterThan(0);

    await phone.goto('/link');
    await phone.getByRole('button', { name: 'Make a code' }).click();
    const code = await phone.getByTestId('link-code').innerText();
    const laptop = await open('botany');
    await laptop.goto(`/link?code=${code}`);
    await laptop.getByRole('button', { name: 'Link this screen' }).click();
    await expect(laptop.getByText(/This screen is linked with/)).toBeVisible();
    await laptop.goto('/');
    await laptop.getByRole('link', { name: /^Hand-in of/ }).click();
    await expect(tiles(laptop)).toHaveCount(1);
    // told as it happens, through the proxy
    await phone.goto(laptop.url());
    await addPhotos(phone, [photoNamed('botany-2')]);
    await expect(tiles(laptop)).toHaveCount(2, { timeout: 60_000 });

    const other = await open('tides');
    await expect(other.getByRole('button', { name: 'Start a new hand-in' })).toBeVisible();
    await expect(other.getByRole('link', { name: /^Hand-in of/ })).toHaveCount(0);
    const stolen = await ask('tides', `/api/hand-ins/${/hand-in\/([\w-]+)/.exec(laptop.url())![1]!}`, {
      headers: { cookie: cookies.map(({ name, value }) => `${name}=${value}`).join('; ') },
    });
    expect(stolen.status).toBe(404);
    expect(
      readdirSync(path.join(folder, 'buckets', 'tides-photos'), { recursive: true, withFileTypes: true }).filter(
        (entry) => entry.isFile(),
      ),
    ).toHaveLength(0);
    for (const page of [phone, laptop, other]) await page.context().close();
  });

  test('people are told apart by their own address, which nobody can make up; the outside sees no metrics', async () => {
    const begin = (from: string, forwarded = from): Promise<{ status: number }> =>
      ask('tides', '/api/link-codes', {
        from,
        method: 'POST',
        headers: { 'content-type': 'application/json', 'x-forwarded-for': forwarded, origin: addressOf('tides') },
        body: '{}',
      });
    const statuses: number[] = [];
    for (let n = 0; n <= NEWCOMERS_A_MINUTE; n++) statuses.push((await begin('127.0.0.9', `192.0.2.${n}`)).status);
    expect([statuses[0], statuses.at(-1)]).toEqual([201, 429]);
    expect((await begin('127.0.0.8')).status).toBe(201);
    expect(
      (
        await ask('tides', '/api/link-codes', {
          from: '127.0.0.7',
          method: 'POST',
          headers: { origin: addressOf('botany') },
        })
      ).status,
    ).toBe(400);
    expect((await ask('tides', '/metrics')).status).toBe(404);
    expect((await ask('geology', '/')).status).toBe(421);
    const plain = await fetch(`http://127.0.0.1:${PLAIN_PORT}/link`, { redirect: 'manual' });
    expect([plain.status, plain.headers.get('location')]).toEqual([308, 'https://127.0.0.1/link']);
  });
});
