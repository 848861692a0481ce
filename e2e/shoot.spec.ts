import { createHash } from 'node:crypto';
import { mkdtempSync, readdirSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { chromium, expect, test, type Browser, type BrowserContext, type Page } from '@playwright/test';
import { readFrameFacts } from '../core/imaging/live/frameFacts';
import { fingerprintSimilarity } from '../core/imaging/quality/pageFingerprint';
import type { HandIn } from '../core/work/hand-in/handIn';
import { decodePhoto } from '../platform/node/decodePhoto';
import { BASE_URL, TEST_BROWSER } from '../playwright.config';
import { cameraVideo, fakeCameraArgs, TABLE_PAGES, type VideoPart } from './fakeCamera';
import { allSaved, startHandIn, tiles } from './steps';

const FIVE_PAGES: readonly VideoPart[] = TABLE_PAGES.flatMap((picture) => [
  { picture: '0-desk', seconds: 1 },
  { picture, seconds: 3 },
]);
const PHONE = { viewport: { width: 390, height: 844 }, hasTouch: true, baseURL: BASE_URL };

const launch = (args: readonly string[]): Promise<Browser> =>
  chromium.launch({ ...TEST_BROWSER, args: [...TEST_BROWSER.args, ...args] });

/** Opens a new hand-in's camera; the tips are skipped as anyone may. */
async function openCamera(page: Page): Promise<void> {
  await startHandIn(page);
  await page.getByRole('button', { name: 'Shoot pages' }).click();
  await page.getByRole('button', { name: 'Skip the tips' }).click();
}

const shutter = (page: Page) => page.getByTestId('shutter');
const strip = (page: Page) => page.getByRole('list', { name: 'Pages kept' }).getByRole('button', { name: /^Page \d+/ });
const handInOf = async (page: Page): Promise<HandIn> =>
  (await (await page.request.get(`/api/hand-ins/${/hand-in\/([\w-]+)/.exec(page.url())![1]}`)).json()) as HandIn;

/** Which of the table's pages a kept shot shows, by its ink. */
async function whichPage(page: Page, originalId: string): Promise<string> {
  const facts = async (bytes: Buffer, name: string): Promise<Float32Array> =>
    readFrameFacts(await decodePhoto(bytes, name), null).fingerprint;
  const shot = await facts(await (await page.request.get(`/api/originals/${originalId}`)).body(), 'shot.jpg');
  const folder = path.resolve('.cache/e2e-data/practice-table');
  const known = await Promise.all(
    [...TABLE_PAGES, '0-desk'].map(async (name) => ({
      name,
      alike: fingerprintSimilarity(shot, await facts(readFileSync(path.join(folder, `${name}.jpg`)), name)),
    })),
  );
  return known.sort((a, b) => b.alike - a.alike)[0]!.name;
}

test.describe('with a camera over the table', () => {
  let browser: Browser;
  let page: Page;
  test.beforeAll(async () => {
    test.setTimeout(120_000);
    browser = await launch(fakeCameraArgs(await cameraVideo('five-pages', FIVE_PAGES)));
  });
  test.beforeEach(async () => {
    page = await (await browser.newContext(PHONE)).newPage();
  });
  test.afterEach(() => page.context().close());
  test.afterAll(() => browser.close());

  test('hands-free takes each page once, in order, and none of the empty desk', async () => {
    await openCamera(page);
    await expect(page.getByText('Looking for the page')).toBeVisible();
    await page.getByRole('button', { name: 'Hands-free shutter' }).click();
    await expect(strip(page)).toHaveCount(5, { timeout: 60_000 });
    await page.getByRole('button', { name: 'Hands-free shutter' }).click();
    await page.getByRole('button', { name: /^Pages: back to/ }).click();
    await expect(page.getByText(/photos? to go/)).toBeHidden({ timeout: 60_000 });
    await allSaved(page);
    const { pages } = await handInOf(page);
    const seen = await Promise.all(pages.map(({ originalId }) => whichPage(page, originalId)));
    const first = TABLE_PAGES.indexOf(seen[0] as (typeof TABLE_PAGES)[number]);
    expect(seen).toEqual(TABLE_PAGES.map((_, i) => TABLE_PAGES[(first + i) % TABLE_PAGES.length]));
    // the paper is looked for behind whatever is done
    await expect
      .poll(async () => (await handInOf(page)).pages.map(({ recipe }) => recipe.outline.by), { timeout: 60_000 })
      .toEqual(TABLE_PAGES.map(() => 'found'));
  });

  test('the shutter takes ten pages in a row without waiting for anything, the network gone for half of them', async () => {
    await openCamera(page);
    await expect(shutter(page)).toBeEnabled();
    for (let i = 1; i <= 10; i++) {
      if (i === 4) await page.context().setOffline(true);
      if (i === 9) await page.context().setOffline(false);
      await shutter(page).click();
      await expect(shutter(page)).toBeEnabled({ timeout: 5000 });
      await expect(page.getByRole('alert')).toHaveCount(0);
    }
    await expect(page.getByRole('button', { name: /pages? kept, \d+ on the way/ })).toHaveCount(0, { timeout: 60_000 });
    await expect(strip(page)).toHaveCount(10);
    const taken = await storedPages(page);
    await page.getByRole('button', { name: /^Pages: back to/ }).click();
    await expect(tiles(page)).toHaveCount(10);
    await allSaved(page);
    // each arrived once, in the order they were taken, and whole
    const { pages } = await handInOf(page);
    expect(pages.map(({ id, originalId }) => [id, originalId])).toEqual(
      taken.map(({ id, originalId }) => [id, originalId]),
    );
    for (const { originalId } of pages)
      expect(
        createHash('sha256')
          .update(await (await page.request.get(`/api/originals/${originalId}`)).body())
          .digest('hex'),
      ).toBe(originalId);
  });

  test('a camera that goes away in the middle of a shot says so, and what was kept stays', async () => {
    await page.addInitScript(() => {
      const open = navigator.mediaDevices.getUserMedia.bind(navigator.mediaDevices);
      navigator.mediaDevices.getUserMedia = async (asked) =>
        Object.assign(window, { stream: await open(asked) }).stream;
    });
    await openCamera(page);
    await shutter(page).click();
    await expect(strip(page)).toHaveCount(1);
    await page.evaluate(() => {
      const { stream } = window as unknown as { stream: MediaStream };
      document.querySelector<HTMLElement>('[data-testid=shutter]')!.click();
      for (const track of stream.getTracks()) {
        track.stop();
        track.dispatchEvent(new Event('ended'));
      }
    });
    await expect(page.getByRole('heading', { name: 'Another program has the camera' })).toBeVisible();
    await page.goto(page.url().replace('/shoot', ''));
    // the second shot is there or not, never half of it
    await expect(tiles(page).first()).toBeVisible();
    await allSaved(page);
    for (const { originalId } of (await handInOf(page)).pages)
      expect((await page.request.get(`/api/originals/${originalId}`)).status()).toBe(200);
  });

  test('the space bar shoots, and a shot can be dropped from its notice and taken back', async () => {
    await openCamera(page);
    await expect(shutter(page)).toBeEnabled();
    await page.keyboard.press('Space');
    await expect(page.getByText('Page 1 kept')).toBeVisible();
    await page.getByRole('button', { name: 'Drop it' }).click();
    await expect(strip(page)).toHaveCount(0);
    await page.getByRole('button', { name: /^Pages: back to/ }).click();
    await page.getByRole('button', { name: 'Undo deleting a page' }).click();
    await expect(tiles(page)).toHaveCount(1);
  });

  test('a page is shot again in its place, and another put behind it', async () => {
    await openCamera(page);
    for (let i = 1; i <= 3; i++) {
      await shutter(page).click();
      await expect(strip(page)).toHaveCount(i);
    }
    const before = (await storedPages(page)).map(({ id }) => id);
    await strip(page).nth(1).click();
    await expect(page.getByText('Page 2 of 3')).toBeVisible();
    await expect(page.getByRole('button', { name: 'Back to the camera' })).toBeVisible();
    await page.getByRole('button', { name: 'Retake this page' }).click();
    await page.getByRole('button', { name: 'Shoot page 2 again', exact: true }).click();
    await expect(page.getByText('Page 2 has its new photo')).toBeVisible();
    const after = await storedPages(page);
    expect(after.map(({ id }) => id)).toEqual(before);
    await strip(page).nth(0).click();
    await page.getByRole('button', { name: 'Order' }).click();
    await page.getByRole('button', { name: 'Shoot pages behind this page' }).click();
    await expect(page.getByText('Adding behind page 1')).toBeVisible();
    await shutter(page).click();
    await expect(strip(page)).toHaveCount(4);
    expect((await storedPages(page)).filter(({ id }) => before.includes(id)).map(({ id }) => id)).toEqual(before);
    expect((await storedPages(page)).findIndex(({ id }) => !before.includes(id))).toBe(1);
  });

  test('torch and zoom appear where the camera has them', async () => {
    await page.addInitScript(() => {
      const asked: unknown[] = [];
      Object.assign(window, { asked });
      MediaStreamTrack.prototype.getCapabilities = () =>
        ({ torch: true, zoom: { min: 1, max: 4, step: 0.1 } }) as MediaTrackCapabilities;
      MediaStreamTrack.prototype.applyConstraints = (constraints) =>
        Promise.resolve(void asked.push(constraints?.advanced?.[0]));
    });
    await openCamera(page);
    const torch = page.getByRole('button', { name: 'Torch' });
    await torch.click();
    await expect(torch).toHaveAttribute('aria-pressed', 'true');
    await page.getByRole('button', { name: 'Zoom in' }).click();
    await expect(page.getByText('1.3 ×')).toBeVisible();
    expect(await page.evaluate(() => (window as unknown as { asked: unknown[] }).asked)).toEqual([
      { torch: true },
      { zoom: 1.25 },
    ]);
  });
});

const storedPages = async (page: Page): Promise<HandIn['pages']> => {
  const handInId = /hand-in\/([\w-]+)/.exec(page.url())![1]!;
  return page.evaluate(
    (id) =>
      new Promise<HandIn['pages']>((resolve, reject) => {
        const opening = indexedDB.open('fotoplan');
        opening.onerror = () => reject(new Error('no database'));
        opening.onsuccess = () => {
          const asking = opening.result.transaction('handIns').objectStore('handIns').get(id);
          asking.onsuccess = () => {
            opening.result.close();
            resolve((asking.result as HandIn).pages);
          };
        };
      }),
    handInId,
  );
};

/** No time to tidy up: every process that was started with this text in its command line. */
function killAllWith(text: string): void {
  for (const pid of readdirSync('/proc').filter((name) => /^\d+$/.test(name) && Number(name) !== process.pid)) {
    try {
      if (readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes(text)) process.kill(Number(pid), 'SIGKILL');
    } catch {
      // it ended meanwhile
    }
  }
}

test('a browser killed between shutter and upload has every shot when it starts again', async () => {
  test.setTimeout(180_000);
  const profile = mkdtempSync(path.join(tmpdir(), 'fotoplan-profile-'));
  const args = [...TEST_BROWSER.args, ...fakeCameraArgs(await cameraVideo('five-pages', FIVE_PAGES))];
  const open = async (): Promise<BrowserContext> => {
    const context = await chromium.launchPersistentContext(profile, { ...TEST_BROWSER, args, ...PHONE });
    await context.addInitScript(() =>
      localStorage.setItem('fotoplan-settings', '{"state":{"welcomeSeen":true},"version":1}'),
    );
    return context;
  };
  const before = await open();
  const page = await before.newPage();
  await openCamera(page);
  await before.route('**/api/originals/**', (route) => route.abort('connectionrefused'));
  for (let i = 1; i <= 3; i++) {
    await shutter(page).click();
    await expect(strip(page)).toHaveCount(i);
  }
  const address = page.url().replace('/shoot', '');
  const died = before.waitForEvent('close');
  killAllWith(profile);
  await died;
  const after = await open();
  const again = await after.newPage();
  await again.goto(address);
  await expect(tiles(again)).toHaveCount(3);
  await allSaved(again);
  expect((await handInOf(again)).pages).toHaveLength(3);
  await after.close();
});

test('in dim light merging is offered, and what it gives takes the single frame’s place', async () => {
  test.setTimeout(180_000);
  const browser = await launch(
    fakeCameraArgs(await cameraVideo('dim', [{ picture: TABLE_PAGES[0], seconds: 2, light: 0.22 }])),
  );
  const page = await (await browser.newContext(PHONE)).newPage();
  await openCamera(page);
  await expect(page.getByText('Too dark: bring a lamp nearer')).toBeVisible();
  await page.getByRole('button', { name: /^Merge 6 frames/ }).click();
  await shutter(page).click();
  await expect(strip(page)).toHaveCount(1);
  const single = (await storedPages(page))[0]!.originalId;
  await expect.poll(async () => (await storedPages(page))[0]!.originalId, { timeout: 90_000 }).not.toBe(single);
  await expect(page.getByRole('button', { name: /^Page 1 .*too dark/ })).toBeVisible({ timeout: 60_000 });
  await browser.close();
});

test.describe('without a camera', () => {
  const cases = [
    {
      name: 'denied',
      args: ['--use-fake-device-for-media-stream', '--deny-permission-prompts'],
      title: 'The camera is switched off for this page',
      script: null,
    },
    { name: 'missing', args: ['--use-fake-ui-for-media-stream'], title: 'No camera was found', script: null },
    {
      name: 'busy',
      args: [],
      title: 'Another program has the camera',
      script:
        "navigator.mediaDevices.getUserMedia = () => Promise.reject(new DOMException('in use', 'NotReadableError'))",
    },
    {
      name: 'at an insecure address',
      args: [],
      title: 'The camera needs a secure address',
      script: "Object.defineProperty(window, 'isSecureContext', { value: false })",
    },
  ] as const;
  for (const { name, args, title, script } of cases) {
    test(`${name}: the way on is named and files still go`, async () => {
      const browser = await launch(args);
      const page = await (await browser.newContext(PHONE)).newPage();
      if (script !== null) await page.addInitScript(script);
      await startHandIn(page);
      await page.getByRole('button', { name: 'Shoot pages' }).click();
      await expect(page.getByRole('heading', { name: title })).toBeVisible();
      await expect(page.getByRole('button', { name: 'Photos from this device' })).toBeVisible();
      await browser.close();
    });
  }

  test('the practice table can be shot like any other', async () => {
    test.setTimeout(180_000);
    const browser = await launch([]);
    const page = await (await browser.newContext(PHONE)).newPage();
    await startHandIn(page);
    await page.getByRole('button', { name: 'Try the practice table' }).click();
    await page.getByRole('button', { name: 'Next tip' }).click();
    await page.getByRole('button', { name: 'Next tip' }).click();
    await page.getByRole('button', { name: 'Start' }).click();
    await page.getByRole('button', { name: 'Hands-free shutter' }).click();
    await expect(strip(page)).toHaveCount(2, { timeout: 90_000 });
    await browser.close();
  });
});
