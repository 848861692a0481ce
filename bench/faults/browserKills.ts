import { randomInt } from 'node:crypto';
import { readdirSync, readFileSync, readlinkSync } from 'node:fs';
import path from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { chromium, type BrowserContext, type Page } from '@playwright/test';
import type { HandIn } from '../../core/work/hand-in/handIn';
import { BROWSER } from '../../playwright.config';
import type { FaultyServer } from './faultyServer';
import { sha256 } from './worker';

const PHONE = { ...BROWSER, viewport: { width: 390, height: 844 } };
const tiles = (page: Page) => page.getByRole('button', { name: /^Page \d+ of \d+/ });
/** How many pages there are; of a long board only some have a tile, but each says of how many it is one. */
const pagesIn = async (page: Page): Promise<number> => {
  const labels = await tiles(page).evaluateAll((all) => all.map((tile) => tile.getAttribute('aria-label') ?? ''));
  return Math.max(0, ...labels.map((label) => Number(/of (\d+)/.exec(label)?.[1] ?? 0)));
};

/**
 * Kills the browser, and every third time the server with it, while photos are added.
 * @param folder - for the browser's profile
 * @param photoFolder - JPEGs to add
 * @returns what did not hold
 */
export async function browserKills(
  server: FaultyServer,
  kills: number,
  paceMs: number,
  folder: string,
  photoFolder: string,
): Promise<readonly string[]> {
  const failures: string[] = [];
  const profile = path.join(folder, 'profile');
  const photos = readdirSync(photoFolder)
    .filter((name) => name.endsWith('.jpg'))
    .map((name) => path.join(photoFolder, name));
  let address = `${server.url}/`;
  /** Pages that the screen has shown as kept. */
  let shown = 0;
  let lost = 0;
  const open = async (): Promise<{ context: BrowserContext; page: Page; kill: () => Promise<void> }> => {
    const context = await chromium.launchPersistentContext(profile, PHONE);
    const page = context.pages()[0] ?? (await context.newPage());
    const kill = async (): Promise<void> => {
      // the browser's lock names its process; those that it started end with it
      process.kill(Number(readlinkSync(path.join(profile, 'SingletonLock')).split('-').at(-1)), 'SIGKILL');
      await context.close().catch(() => undefined);
      await pause(400);
    };
    return { context, page, kill };
  };
  for (let k = 0; k < kills; k++) {
    const { page, kill } = await open();
    try {
      await page.goto(address, { waitUntil: 'domcontentloaded' });
      if (address.endsWith('/')) {
        await page.getByRole('button', { name: 'Start a new hand-in' }).click();
        await page.waitForURL(/hand-in\//);
        address = page.url();
        await page.getByRole('button', { name: 'Add photos' }).last().waitFor();
        await pause(1500); // as long as a browser takes to write an address down
      } else if (shown > 0) {
        await tiles(page).first().waitFor({ timeout: 30_000 });
        await pause(400);
        const now = await pagesIn(page);
        if (now < shown) lost += shown - now;
        shown = Math.max(now, 0);
      }
      const add = page.getByRole('button', { name: 'Add photos' }).last();
      const chooser = page.waitForEvent('filechooser');
      await add.click();
      // each another file: bytes behind its end are nobody's business
      await (
        await chooser
      ).setFiles({
        name: `${k}.jpg`,
        mimeType: 'image/jpeg',
        buffer: Buffer.concat([readFileSync(photos[k % photos.length]!), Buffer.from(`${k} ${Math.random()}`)]),
      });
      const until = Date.now() + randomInt(2 * paceMs + 700);
      while (Date.now() < until) {
        shown = Math.max(shown, await pagesIn(page));
        await pause(60);
      }
      if (k % 3 === 0) await server.killAndStart();
    } catch (error) {
      failures.push(`browser round ${k}: ${error instanceof Error ? error.message.split('\n')[0] : String(error)}`);
    }
    await kill();
  }
  const { context, page } = await open();
  await page.goto(address);
  await page.getByText('All saved').waitFor({ timeout: 120_000 });
  const kept = shown === 0 ? 0 : await pagesIn(page);
  const id = /hand-in\/([^/?]+)/.exec(address)![1]!;
  const handIn = (await (await page.request.get(`${server.url}/api/hand-ins/${id}`)).json()) as HandIn;
  const pages = handIn.pages.filter(({ removedAtMs }) => removedAtMs === null);
  let whole = 0;
  for (const originalId of new Set(pages.map((each) => each.originalId)))
    if (sha256(await (await page.request.get(`${server.url}/api/originals/${originalId}`)).body()) === originalId)
      whole++;
  await context.close();
  console.log(
    `browser killed ${kills} times (the server with it ${Math.ceil(kills / 3)} times): ${shown} pages shown as kept, lost on the way ${lost}, there at the end ${kept}, on the server ${pages.length}, of ${new Set(pages.map((each) => each.originalId)).size} originals whole ${whole}`,
  );
  if (lost > 0 || kept < shown || pages.length !== kept || whole < new Set(pages.map((each) => each.originalId)).size)
    failures.push('pages or originals were lost with the browser');
  return failures;
}
