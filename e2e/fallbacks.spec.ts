import { readFileSync } from 'node:fs';
import { chromium, expect, test, type Browser, type Page } from '@playwright/test';
import { unzipSync } from 'fflate';
import sharp from 'sharp';
import { decodePhoto } from '../platform/node/decodePhoto';
import { BASE_URL, TEST_BROWSER } from '../playwright.config';
import { cameraVideo, fakeCameraArgs } from './fakeCamera';
import { photoNamed } from './photos';
import { addPhotos, startHandIn, tiles } from './steps';

/*
 * What browsers lack, taken from this one: each way round it is gone here, and the way itself beside it. Bytes kept without a file
 * system of the browser's own are in storage.spec.ts and openKeptBytes.test.ts.
 */

/** Runs a script before all others, in the page's workers: an init script reaches only the page. */
async function beforeWorkers(page: Page, script: string): Promise<void> {
  await page.route(/Worker-[0-9a-f]+\.js$/, async (route) => {
    const response = await route.fetch();
    await route.fulfill({ response, body: `${script};${await response.text()}` });
  });
}

test.describe('photos', () => {
  const PAGE_TOLERANCE = 1.5;

  /** The first page as a small JPEG, of a photo that lies on its side. */
  async function pageOf(page: Page): Promise<{ width: number; data: Uint8ClampedArray }> {
    await startHandIn(page);
    const lying = await sharp(photoNamed('tides-1')).rotate(270).jpeg().withMetadata({ orientation: 6 }).toBuffer();
    await addPhotos(page, [{ name: 'lying.jpg', mimeType: 'image/jpeg', buffer: lying }]);
    await expect(tiles(page)).toHaveCount(1, { timeout: 60_000 });
    await page.getByRole('button', { name: 'Bind 1 page' }).click();
    await expect(page.getByText('This file is up to date.')).toBeVisible({ timeout: 90_000 });
    await page.getByRole('button', { name: 'Pages as pictures', expanded: false }).click();
    await page.getByRole('radio', { name: '1200 px long' }).click();
    const download = page.waitForEvent('download');
    await page.getByRole('button', { name: /^as JPEG|^Pages as JPEG/ }).click();
    const zip = unzipSync(readFileSync(await (await download).path()));
    return decodePhoto(Buffer.from(zip['page-01.jpg']!), 'page.jpg');
  }

  test('are read through a canvas where there are no video frames, and come out the same', async ({
    page,
    context,
  }) => {
    test.setTimeout(240_000);
    const plain = await pageOf(page);
    const lacking = await context.newPage();
    let lacked = false;
    lacking.on('console', (message) => (lacked ||= message.text() === 'no frames here'));
    await beforeWorkers(
      lacking,
      'delete self.VideoFrame; console.log(typeof VideoFrame === "undefined" ? "no frames here" : "")',
    );
    const through = await pageOf(lacking);
    expect(lacked).toBe(true);
    expect(through.width).toBe(plain.width);
    const off = plain.data.reduce((sum, v, i) => sum + Math.abs(v - through.data[i]!), 0) / plain.data.length;
    expect(off).toBeLessThan(PAGE_TOLERANCE);
  });
});

test.describe('the camera’s own still', () => {
  let browser: Browser;
  /** Larger than the video, so that a kept photo tells where it came from. */
  const STILL = { width: 1500, height: 2000 };
  const VIDEO_WIDTH = 1080;
  test.beforeAll(async () => {
    test.setTimeout(120_000);
    const args = fakeCameraArgs(await cameraVideo('one-page', [{ picture: '1-calculation', seconds: 2 }]));
    browser = await chromium.launch({ ...TEST_BROWSER, args: [...TEST_BROWSER.args, ...args] });
  });
  test.afterAll(() => browser.close());

  /** How wide the photo kept is where `takePhoto` answers like this; null: there is no such thing. */
  async function widthKept(answer: 'at once' | 'never' | 'fails' | null): Promise<number> {
    const page = await (
      await browser.newContext({ viewport: { width: 390, height: 844 }, hasTouch: true, baseURL: BASE_URL })
    ).newPage();
    const still = await sharp(photoNamed('tides-1'))
      .resize({ ...STILL, fit: 'fill' })
      .jpeg()
      .toBuffer();
    await page.addInitScript(
      ([how, photo]) => {
        class Still {
          takePhoto(): Promise<Blob> {
            if (how === 'fails') return Promise.reject(new DOMException('no', 'InvalidStateError'));
            const bytes = Uint8Array.from(atob(photo), (letter) => letter.charCodeAt(0));
            return how === 'never'
              ? new Promise(() => undefined)
              : Promise.resolve(new Blob([bytes], { type: 'image/jpeg' }));
          }
        }
        Object.assign(globalThis, { ImageCapture: how === null ? undefined : Still });
      },
      [answer, still.toString('base64')] as const,
    );
    await startHandIn(page);
    await page.getByRole('button', { name: 'Shoot pages' }).click();
    await page.getByRole('button', { name: 'Skip the tips' }).click();
    await page.getByTestId('shutter').click();
    await expect(page.getByRole('list', { name: 'Pages kept' }).getByRole('button').first()).toBeVisible();
    await page.getByRole('button', { name: /^Pages: back to/ }).click();
    await expect(page.getByText('All saved')).toBeVisible({ timeout: 60_000 });
    const id = /hand-in\/([\w-]+)/.exec(page.url())![1]!;
    const { pages } = (await (await page.request.get(`/api/hand-ins/${id}`)).json()) as {
      pages: { originalId: string }[];
    };
    const kept = await (await page.request.get(`/api/originals/${pages[0]!.originalId}`)).body();
    await page.context().close();
    return (await sharp(kept).metadata()).width;
  }

  test('is kept where there is one; else, or where it is late or fails, a frame of the video', async () => {
    test.setTimeout(240_000);
    expect(await widthKept('at once')).toBe(STILL.width);
    for (const answer of ['never', 'fails', null] as const) expect(await widthKept(answer)).toBe(VIDEO_WIDTH);
  });
});

test('ways out are offered by what the browser has: share sheet, folder and clipboard, or the download alone', async ({
  browser,
}) => {
  test.setTimeout(240_000);
  /** What is offered on the bind screen and the page, in a browser that has this or lacks it. */
  async function offered(has: boolean): Promise<{ page: Page; names: string[] }> {
    const page = await (
      await browser.newContext({ viewport: { width: 390, height: 844 }, serviceWorkers: 'block' })
    ).newPage();
    await page.addInitScript((present) => {
      const give = (where: object, name: string, value: unknown): void =>
        void Object.defineProperty(where, name, { value, configurable: true });
      give(navigator, 'canShare', present ? () => true : undefined);
      give(
        navigator,
        'share',
        present ? (shared: unknown) => Promise.resolve(Object.assign(globalThis, { shared })) : undefined,
      );
      give(globalThis, 'showDirectoryPicker', () => Promise.reject(new DOMException('closed', 'AbortError')));
      if (present) return;
      Reflect.deleteProperty(globalThis, 'showDirectoryPicker');
      Reflect.deleteProperty(globalThis, 'ClipboardItem');
    }, has);
    await startHandIn(page);
    await addPhotos(page, [photoNamed('tides-1')]);
    await expect(tiles(page)).toHaveCount(1, { timeout: 60_000 });
    await page.getByRole('button', { name: 'Bind 1 page' }).click();
    await expect(page.getByText('This file is up to date.')).toBeVisible({ timeout: 90_000 });
    const named = (): Promise<string[]> =>
      page
        .getByRole('button')
        .evaluateAll((all) => all.map((each) => each.getAttribute('aria-label') ?? each.textContent));
    const names = await named();
    await page.getByRole('link', { name: /^Pages/ }).click();
    await tiles(page).first().click();
    await page.getByRole('button', { name: 'Order' }).click();
    await expect(page.getByRole('button', { name: /^Later|^Earlier|^Leave/ }).first()).toBeVisible();
    return { page, names: [...names, ...(await named())] };
  }
  const WAYS = [/^Share/, /^Save to a folder/, /^Copy as a picture/];
  const lacking = await offered(false);
  for (const way of WAYS) expect(lacking.names.filter((name) => way.test(name))).toEqual([]);
  expect(lacking.names.filter((name) => name.startsWith('Download'))).not.toEqual([]);
  await lacking.page.context().close();

  const { page, names } = await offered(true);
  for (const way of WAYS) expect(names.filter((name) => way.test(name))).toHaveLength(1);
  await page.getByRole('link', { name: /^Bind/ }).click();
  await page.getByRole('button', { name: /^Share/ }).click();
  const shared = await page.evaluate(async () => {
    const { files } = (globalThis as unknown as { shared: { files: File[] } }).shared;
    return Promise.all(files.map(async (file) => [file.type, await file.slice(0, 5).text()]));
  });
  expect(shared).toEqual([['application/pdf', '%PDF-']]);
  await page.context().close();
});
