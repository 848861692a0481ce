import { spawn } from 'node:child_process';
import { mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { chromium, type Browser, type BrowserContext, type Page } from '@playwright/test';
import sharp from 'sharp';
import { BROWSER } from '../playwright.config';

/*
 * A board of 30 pages of 12 megapixels: opened cold on the device that shot them, from its first paint until every thumbnail is
 * drawn, and on a linked screen, by what comes from the server. A tall window shows all 30 at once.
 */

const PORT = 4491;
const URL = `http://localhost:${PORT}`;
const PAGES = 30;
const PHOTO = { width: 3024, height: 4032 };
const VIEWPORT = { width: 390, height: 9000 };
const TRIES = 3;

const tiles = (page: Page) => page.getByRole('button', { name: /^Page \d+ of \d+/ });

/** Photos of the scored set, as large as a phone's. */
async function photos(folder: string): Promise<{ name: string; mimeType: string; buffer: Buffer }[]> {
  const names = readdirSync(folder)
    .filter((name) => name.endsWith('.jpg'))
    .sort()
    .slice(0, PAGES);
  if (names.length < PAGES) throw new Error(`${folder} holds fewer than ${PAGES} photos`);
  return Promise.all(
    names.map(async (name) => ({
      name,
      mimeType: 'image/jpeg',
      buffer: await sharp(path.join(folder, name))
        .rotate()
        .resize({ ...PHOTO, fit: 'cover' })
        .jpeg({ quality: 90 })
        .toBuffer(),
    })),
  );
}

async function shoot(page: Page, folder: string): Promise<string> {
  await page.goto(URL);
  await page.getByRole('button', { name: 'Start a new hand-in' }).click();
  const chooser = page.waitForEvent('filechooser');
  await page.getByRole('button', { name: 'Add photos' }).last().click();
  const began = performance.now();
  await (await chooser).setFiles(await photos(folder));
  await tiles(page)
    .nth(PAGES - 1)
    .waitFor({ timeout: 300_000 });
  await page.getByText('All saved').waitFor({ timeout: 600_000 });
  await page.waitForFunction(
    () =>
      document.querySelectorAll('[data-testid=page-board] img').length > 0 &&
      !/Finding the paper/.test(document.body.innerText),
    undefined,
    { timeout: 600_000 },
  );
  console.log(`taken in, found and sent: ${((performance.now() - began) / 1000).toFixed(1)} s`);
  await pause(3000);
  return new globalThis.URL(page.url()).pathname;
}

/** Milliseconds from the first contentful paint until all thumbnails are there, and those that were on the first screen. */
async function coldBoard(
  context: BrowserContext,
  at: string,
): Promise<{ readonly all: number; readonly firstScreen: number; readonly paint: number }> {
  const page = await context.newPage();
  await page.addInitScript((count) => {
    const look = (): void => {
      const drawn = Array.from(document.querySelectorAll<HTMLImageElement>('[data-testid=page-board] img')).filter(
        (img) => img.complete && img.naturalWidth > 0,
      );
      const first = drawn.filter((img) => img.getBoundingClientRect().top < 844).length;
      const known = window as unknown as { firstAt?: number; allAt?: number };
      if (first >= 4) known.firstAt ??= performance.now();
      if (drawn.length >= count) known.allAt ??= performance.now();
      else requestAnimationFrame(look);
    };
    requestAnimationFrame(look);
  }, PAGES);
  await page.goto(`${URL}${at}`);
  await page.waitForFunction(() => (window as unknown as { allAt?: number }).allAt !== undefined, undefined, {
    timeout: 120_000,
  });
  const times = await page.evaluate(() => {
    const { firstAt, allAt } = window as unknown as { firstAt: number; allAt: number };
    return { paint: performance.getEntriesByName('first-contentful-paint')[0]!.startTime, firstAt, allAt };
  });
  await page.close();
  return { paint: times.paint, all: times.allAt - times.paint, firstScreen: times.firstAt - times.paint };
}

async function linkedBoard(
  browser: Browser,
  phone: Page,
  at: string,
): Promise<{ readonly api: number; readonly total: number; readonly originals: number }> {
  await phone.goto(`${URL}/link`);
  await phone.getByRole('button', { name: 'Make a code' }).click();
  const code = await phone.getByTestId('link-code').innerText();
  const context = await browser.newContext({ viewport: VIEWPORT, serviceWorkers: 'block' });
  const laptop = await context.newPage();
  await laptop.goto(`${URL}/link?code=${code}`);
  await laptop.getByRole('button', { name: 'Link this screen' }).click();
  await laptop.getByText('This screen is linked now.', { exact: false }).waitFor();
  const client = await context.newCDPSession(laptop);
  await client.send('Network.enable');
  const addresses = new Map<string, string>();
  const counted = { api: 0, total: 0, originals: 0 };
  client.on('Network.requestWillBeSent', ({ requestId, request }) => addresses.set(requestId, request.url));
  client.on('Network.loadingFinished', ({ requestId, encodedDataLength }) => {
    const address = addresses.get(requestId) ?? '';
    counted.total += encodedDataLength;
    if (address.includes('/api/')) counted.api += encodedDataLength;
    if (/\/api\/originals\/[0-9a-f]{64}$/.test(address)) counted.originals++;
  });
  await laptop.goto(`${URL}${at}`);
  await laptop.waitForFunction(
    (count) => document.querySelectorAll('[data-testid=page-board] img').length >= count,
    PAGES,
    { timeout: 120_000 },
  );
  await pause(3000);
  await context.close();
  return counted;
}

export async function benchBoard(folder: string): Promise<void> {
  console.log(`\nA board of ${PAGES} pages of ${PHOTO.width} × ${PHOTO.height}`);
  const data = mkdtempSync(path.join(tmpdir(), 'fotoplan-board-'));
  const server = spawn(process.execPath, ['dist/server.mjs'], {
    env: { ...process.env, PORT: String(PORT), DATA_DIR: data, LOG_LEVEL: 'warn' },
    stdio: 'ignore',
  });
  const browser = await chromium.launch(BROWSER);
  try {
    while (
      !(await fetch(`${URL}/livez`).then(
        ({ ok }) => ok,
        () => false,
      ))
    )
      await pause(200);
    const context = await browser.newContext({ viewport: VIEWPORT, serviceWorkers: 'block' });
    const phone = await context.newPage();
    const at = await shoot(phone, folder);
    await phone.goto('about:blank');
    for (let n = 0; n < TRIES; n++) {
      const { paint, firstScreen, all } = await coldBoard(context, at);
      console.log(
        `cold: first paint at ${Math.round(paint)} ms, first screen's thumbnails ${Math.round(firstScreen)} ms later, all ${PAGES} ${Math.round(all)} ms later (must: 1000)`,
      );
    }
    const { api, total, originals } = await linkedBoard(browser, phone, at);
    console.log(
      `linked screen: ${(api / 1e6).toFixed(2)} MB of data (must: 3), ${(total / 1e6).toFixed(2)} MB with the app itself, ${originals} whole photos`,
    );
  } finally {
    await browser.close();
    server.kill();
    rmSync(data, { recursive: true });
  }
}
