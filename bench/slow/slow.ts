import { existsSync, mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import type { BrowserContext, Page } from '@playwright/test';
import { readableBytes } from '../../core/readableBytes';
import type { HandIn } from '../../core/work/hand-in/handIn';
import { cameraVideo, fakeCameraArgs } from '../../e2e/fakeCamera';
import { beenAt } from '../../playwright.config';
import { FaultyServer } from '../faults/faultyServer';
import { quantile } from '../statistics';
import { launchHeld, type HeldBrowser } from './heldBrowser';

/*
 * The app on a phone that is half as fast as one core of this machine: one core, and all processes of the browser standing still
 * for half of the time; 390 × 844; 1.5 Mbit/s up. What it measures and what must be are in docs/performance.md.
 */

const PORT = 4493;
const PHOTOS = 10;
const PHONE = { viewport: { width: 390, height: 844 }, hasTouch: true };
/** Bytes a second up and down, and the way there and back, ms. */
const NETWORK = { uploadThroughput: 1.5e6 / 8, downloadThroughput: 8e6 / 8, latency: 80, offline: false };
const WATCHED_MS = 10_000;
const RESTS_MS = 60_000;
const SHOTS = 5;
const LONG_MS = 600_000;

interface Row {
  readonly what: string;
  readonly measured: string;
  readonly must: string;
}

/** @param photoFolder - of photos of 12 megapixels */
export async function benchSlow(photoFolder: string): Promise<void> {
  const folder = mkdtempSync(path.join(tmpdir(), 'fotoplan-slow-'));
  const server = new FaultyServer(PORT, path.join(folder, 'data'));
  await server.start();
  try {
    const photos = readdirSync(photoFolder)
      .filter((name) => name.endsWith('.jpg'))
      .slice(0, PHOTOS)
      .map((name) => path.join(photoFolder, name));
    if (photos.length < PHOTOS || !existsSync('dist/web')) throw new Error('The photos or the built app are missing.');
    console.table([...(await handIn(server.url, photos)), ...(await camera(server.url))]);
  } finally {
    await server.stop();
    rmSync(folder, { recursive: true, force: true });
  }
}

/** Photos taken in and bound. */
async function handIn(url: string, photos: readonly string[]): Promise<Row[]> {
  const held = await launchHeld([]);
  const page = await openApp(held, url);
  const chooser = page.waitForEvent('filechooser', { timeout: LONG_MS });
  await page.getByRole('button', { name: 'Add photos' }).last().click();
  const began = performance.now();
  await (await chooser).setFiles([...photos]);
  const tiles = page.getByRole('button', { name: /^Page \d+ of \d+/ });
  await tiles.first().waitFor();
  const firstMs = performance.now() - began;
  await page
    .getByRole('button', { name: `Page ${PHOTOS} of ${PHOTOS}` })
    .first()
    .waitFor();
  while (!(await allFound(page))) await pause(200);
  const foundMs = performance.now() - began;
  await page.getByRole('link', { name: /^Bind/ }).click();
  const bind = page.getByRole('button', { name: /bind 10 pages/i });
  await bind.waitFor();
  const binding = performance.now();
  await bind.click();
  await page.getByText('This file is up to date.').waitFor();
  const boundMs = performance.now() - binding;
  await page.getByRole('link', { name: /^Pages/ }).click();
  // what is on its way has gone up before the phone may rest
  await limit(page, null);
  await page.getByText('All saved').waitFor();
  await pause(RESTS_MS);
  const before = held.processorMs();
  await pause(WATCHED_MS);
  const idle = (held.processorMs() - before) / WATCHED_MS;
  const taps = await tapsOf(page);
  await held.close();
  return [
    { what: 'first page on the screen', measured: seconds(firstMs), must: '' },
    { what: '10 photos of 12 megapixels found, and the server told', measured: seconds(foundMs), must: '25 s' },
    { what: '10 pages bound', measured: seconds(boundMs), must: '25 s' },
    { what: 'taps answered, of 20 the slowest', measured: `${Math.round(quantile(taps, 0.95))} ms`, must: '200 ms' },
    { what: 'memory of all processes, peak', measured: readableBytes(held.peakBytes()), must: '700 MB' },
    { what: 'processor, the pages open and nothing wanted', measured: `${(100 * idle).toFixed(1)} %`, must: '' },
  ];
}

/** The camera over a page that a hand holds. */
async function camera(url: string): Promise<Row[]> {
  const video = await cameraVideo('one-page', [{ picture: '1-calculation', seconds: 2 }]);
  const held = await launchHeld(fakeCameraArgs(video));
  const page = await openApp(held, url);
  await page.getByRole('button', { name: 'Shoot pages' }).click();
  await page.getByRole('button', { name: 'Skip the tips' }).click();
  await page.getByTestId('live-outline').waitFor();
  const outlines = await page.evaluate(countOutlines, WATCHED_MS);
  const shots: number[] = [];
  for (let shot = 0; shot < SHOTS; shot++) {
    shots.push(await page.evaluate(untilTaken));
    await pause(1000);
  }
  await held.close();
  return [
    { what: 'outlines a second in the live view', measured: (outlines / (WATCHED_MS / 1000)).toFixed(1), must: '10' },
    {
      what: 'shutter until the shot is counted, median',
      measured: `${Math.round(quantile(shots, 0.5))} ms`,
      must: '300 ms',
    },
    { what: 'memory with the camera, peak', measured: readableBytes(held.peakBytes()), must: '700 MB' },
  ];
}

const seconds = (ms: number): string => `${(ms / 1000).toFixed(1)} s`;

/** An empty hand-in, its taps being timed. */
async function openApp({ browser }: HeldBrowser, url: string): Promise<Page> {
  const context: BrowserContext = await browser.newContext({ ...PHONE, baseURL: url, storageState: beenAt(url) });
  const page = await context.newPage();
  page.setDefaultTimeout(LONG_MS);
  await page.addInitScript(() => {
    const taps: number[] = [];
    Object.assign(window, { fotoplanTaps: taps });
    new PerformanceObserver((list) => {
      for (const entry of list.getEntries() as (PerformanceEntry & { readonly interactionId: number })[])
        if (entry.interactionId !== 0) taps.push(entry.duration);
    }).observe({ type: 'event', durationThreshold: 16, buffered: true } as PerformanceObserverInit);
  });
  await limit(page, NETWORK);
  await page.goto('/');
  await page.getByRole('button', { name: 'Start a new hand-in' }).click();
  await page.getByRole('heading', { name: 'No pages yet' }).waitFor();
  return page;
}
/** Holds what the page sends and fetches to a network; null for none. Its workers are not held. */
async function limit(page: Page, network: typeof NETWORK | null): Promise<void> {
  const session = await page.context().newCDPSession(page);
  const free = { uploadThroughput: -1, downloadThroughput: -1, latency: 0, offline: false };
  await session.send('Network.emulateNetworkConditions', network ?? free);
}

/** Whether the server knows all pages with the edges that were found on them. */
async function allFound(page: Page): Promise<boolean> {
  const id = /hand-in\/([\w-]+)/.exec(page.url())![1]!;
  const { pages } = (await (await page.request.get(`/api/hand-ins/${id}`)).json()) as HandIn;
  return pages.length === PHOTOS && pages.every(({ recipe }) => recipe.outline.by !== 'pending');
}
const tapsOf = (page: Page): Promise<number[]> =>
  page.evaluate(() => (window as unknown as { readonly fotoplanTaps: number[] }).fotoplanTaps);

/** How often the drawn outline changes within a time; it runs in the page. */
const countOutlines = (ms: number): Promise<number> =>
  new Promise((resolve) => {
    let count = 0;
    const seen = new MutationObserver((changes) => {
      if (changes.some(({ target }) => target.nodeName === 'polygon')) count++;
    });
    seen.observe(document.body, { subtree: true, attributes: true, attributeFilter: ['points'] });
    setTimeout(() => {
      seen.disconnect();
      resolve(count);
    }, ms);
  });

/** Presses the shutter and waits until it counts the shot, and so takes the next one; it runs in the page. */
const untilTaken = (): Promise<number> =>
  new Promise((resolve) => {
    const count = (): string =>
      document.querySelector('[aria-label^="Pages: back to"]')?.getAttribute('aria-label') ?? '';
    const before = count();
    const began = performance.now();
    document.querySelector<HTMLElement>('[data-testid=shutter]')!.click();
    const look = (): void => {
      if (count() === before) setTimeout(look, 5);
      else resolve(performance.now() - began);
    };
    look();
  });
