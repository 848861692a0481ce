import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { expect, test, type Page, type Route } from '@playwright/test';
import { photoNamed, practicePhotos } from './photos';
import { addPhotos, allSaved, startHandIn, tiles } from './steps';

/* Whatever the server, a proxy or the device answers: the pages stand, it is said what is not saved, and trying again saves it. */

const ours = (status: number, code: string) => (route: Route) =>
  route.fulfill({
    status,
    contentType: 'application/json',
    body: JSON.stringify({ code, message: `Made up for the test: ${code}.` }),
  });
const proxyPage = (status: number) => (route: Route) =>
  route.fulfill({ status, contentType: 'text/html', body: '<html><h1>Blocked by the network</h1></html>' });
const ORIGINALS = /\/api\/originals\/[0-9a-f]{64}(\/parts.*|\/done)?$/;
const OPERATIONS = /\/api\/operations$/;

const banner = (page: Page) => page.getByRole('region', { name: 'What is not saved' });
/** Where it would be tried again by itself, that may come first. */
const tryAgain = (page: Page) =>
  banner(page)
    .getByRole('button', { name: 'Try again' })
    .click({ timeout: 5000 })
    .catch(() => undefined);
const pagesOnServer = async (page: Page): Promise<number> => {
  const handIn = (await (
    await page.request.get(`/api/hand-ins/${/hand-in\/([\w-]+)/.exec(page.url())![1]}`)
  ).json()) as { pages?: unknown[] };
  return handIn.pages?.length ?? 0;
};

for (const [name, address, answer, isRefused] of [
  ['429 on photos', ORIGINALS, ours(429, 'TOO_MANY_TRIES'), false],
  ['413 on photos', ORIGINALS, ours(413, 'QUOTA_FULL'), true],
  ['a proxy’s 403 on photos', ORIGINALS, proxyPage(403), false],
  ['400 on photos', ORIGINALS, ours(400, 'BODY_INVALID'), true],
  ['429 on operations', OPERATIONS, ours(429, 'TOO_MANY_TRIES'), false],
  ['413 on operations', OPERATIONS, ours(413, 'QUOTA_FULL'), true],
  ['a proxy’s 403 on operations', OPERATIONS, proxyPage(403), false],
  ['400 on operations', OPERATIONS, ours(400, 'BODY_INVALID'), true],
] as const) {
  test(`${name}, then a reload: the pages stand, and trying again saves them`, async ({ page }) => {
    await startHandIn(page);
    await allSaved(page);
    await page.route(address, (route) => (route.request().method() === 'GET' ? route.continue() : answer(route)));
    await addPhotos(page, practicePhotos().slice(0, 2));
    await expect(tiles(page)).toHaveCount(2, { timeout: 60_000 });
    const said = isRefused
      ? /\d+ changes? could not be saved.*Made up for the test/
      : /\d+ changes? only on this device/;
    await expect(banner(page).getByText(said)).toBeVisible();
    await page.reload();
    await expect(tiles(page)).toHaveCount(2);
    await expect(banner(page).getByText(said)).toBeVisible();
    await expect(page.getByText('All saved')).toHaveCount(0);
    expect(await pagesOnServer(page)).toBe(0);
    await page.unroute(address);
    await (isRefused ? banner(page).getByRole('button', { name: 'Try again' }).click() : tryAgain(page));
    await allSaved(page);
    await expect(banner(page)).toHaveCount(0);
    expect(await pagesOnServer(page)).toBe(2);
    await expect(tiles(page)).toHaveCount(2);
  });
}

test('what was refused can be discarded, after asking, and the rest stays', async ({ page }) => {
  await startHandIn(page);
  await addPhotos(page, [photoNamed('tides-1')]);
  await expect(tiles(page)).toHaveCount(1, { timeout: 60_000 });
  await allSaved(page);
  await page.route(ORIGINALS, (route) =>
    route.request().method() === 'GET' ? route.continue() : ours(413, 'QUOTA_FULL')(route),
  );
  await addPhotos(page, [photoNamed('tides-2')]);
  await expect(tiles(page)).toHaveCount(2, { timeout: 60_000 });
  await banner(page).getByRole('button', { name: 'Discard what could not be saved' }).click();
  await banner(page).getByRole('button', { name: 'Keep what could not be saved' }).click();
  await expect(tiles(page)).toHaveCount(2);
  await banner(page).getByRole('button', { name: 'Discard what could not be saved' }).click();
  await banner(page)
    .getByRole('button', { name: /^Discard 1 change for good/ })
    .click();
  await expect(tiles(page)).toHaveCount(1);
  await allSaved(page);
  await page.reload();
  await expect(tiles(page)).toHaveCount(1);
});

test.describe('with the server killed', () => {
  test.use({ serviceWorkers: 'allow' });
  const PORT = 4398;
  const folder = mkdtempSync(path.join(tmpdir(), 'fotoplan-killed-'));
  let server: ChildProcess | null = null;
  const start = async (): Promise<void> => {
    server = spawn(process.execPath, ['dist/server.mjs'], {
      env: { ...process.env, PORT: String(PORT), DATA_DIR: folder },
      stdio: 'ignore',
    });
    await expect
      .poll(
        () =>
          fetch(`http://localhost:${PORT}/livez`).then(
            ({ ok }) => ok,
            () => false,
          ),
        { timeout: 30_000 },
      )
      .toBe(true);
  };
  const kill = async (): Promise<void> => {
    const ended = new Promise((resolve) => server!.once('exit', resolve));
    server!.kill('SIGKILL');
    await ended;
  };
  test.afterAll(async () => {
    await kill();
    rmSync(folder, { recursive: true });
  });

  test('photos stand over a reload, and go up once it is there again', async ({ page }) => {
    await start();
    await page.goto(`http://localhost:${PORT}/`);
    await page.evaluate(() => navigator.serviceWorker.ready.then(() => undefined));
    await page.getByRole('button', { name: 'Start a new hand-in' }).click();
    await expect(page.getByRole('heading', { name: 'No pages yet' })).toBeVisible();
    await allSaved(page);
    await kill();
    await addPhotos(page, practicePhotos().slice(0, 2));
    await expect(tiles(page)).toHaveCount(2, { timeout: 60_000 });
    await expect(page.getByText(/^No connection: .* safe on this device/)).toBeVisible();
    await page.reload();
    await expect(tiles(page)).toHaveCount(2, { timeout: 60_000 });
    await expect(banner(page).getByText(/only on this device. The server cannot be reached/)).toBeVisible();
    await start();
    await tryAgain(page);
    await allSaved(page);
    const id = /hand-in\/([\w-]+)/.exec(page.url())![1]!;
    expect(
      ((await (await page.request.get(`http://localhost:${PORT}/api/hand-ins/${id}`)).json()) as { pages: unknown[] })
        .pages,
    ).toHaveLength(2);
  });
});
