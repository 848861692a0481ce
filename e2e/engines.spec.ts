import { execFileSync, spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, rmSync, symlinkSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { expect, test } from '@playwright/test';
import { findProgram, thisMachine } from '../scripts/programs';
import type { EngineBrowser, Role } from './engines/engine';
import { openFirefox } from './engines/firefox';
import { findMiniBrowser, openWebKit } from './engines/webKit';

/*
 * The whole job in the engines that are not Chromium, each with its own driver; WebKit's windows are private ones. A server of
 * their own keeps them out of what other tests have at the office.
 */

const PORT = 4396;
const ADDRESS = `http://localhost:${PORT}`;
const firefox = findProgram('firefox', thisMachine);
const hasDriver = (['webKitDriver', 'xvfb', 'dbus'] as const).every(
  (program) => findProgram(program, thisMachine) !== null,
);
const miniBrowser = hasDriver ? findMiniBrowser() : null;

const folder = mkdtempSync(path.join(tmpdir(), 'fotoplan-engines-'));
let server: ChildProcess;

test.beforeAll(async () => {
  for (const photos of ['practice-photos', 'practice-table'])
    symlinkSync(path.resolve('.cache/e2e-data', photos), path.join(folder, photos));
  const env = { ...process.env, PORT: String(PORT), DATA_DIR: folder, DEMO: '1', LOG_LEVEL: 'warn' };
  execFileSync(process.execPath, ['dist/seed.mjs'], { env, stdio: 'ignore' });
  server = spawn(process.execPath, ['dist/server.mjs'], {
    env,
    stdio: ['ignore', 'ignore', 'inherit'],
  });
  const isUp = (): Promise<boolean> =>
    fetch(`${ADDRESS}/livez`).then(
      ({ ok }) => ok,
      () => false,
    );
  await expect.poll(isUp, { timeout: 60_000 }).toBe(true);
});
test.afterAll(async () => {
  const ended = new Promise((resolve) => server.once('exit', resolve));
  server.kill('SIGTERM');
  await ended;
  rmSync(folder, { recursive: true, force: true });
});

test('the whole job in Firefox', async () => {
  test.skip(firefox === null, 'Firefox is not installed here (Debian: firefox-esr).');
  test.setTimeout(300_000);
  await inBrowser(await openFirefox(firefox!), wholeJob);
});

test('the whole job in WebKit, in a private window', async () => {
  test.skip(miniBrowser === null, 'WebKit is not installed here (Debian: webkit2gtk-driver, xvfb, xauth, dbus).');
  test.setTimeout(300_000);
  await inBrowser(await openWebKit(miniBrowser!), wholeJob);
});

async function inBrowser(browser: EngineBrowser, job: (browser: EngineBrowser) => Promise<void>): Promise<void> {
  try {
    await job(browser);
  } finally {
    await browser.close();
  }
}

/** From the desk to the receipt: practice photos, a corner set, a page rotated and moved, bound, handed in, and there after a reload. */
async function wholeJob(browser: EngineBrowser): Promise<void> {
  // a thing may go between being found and being clicked
  const click = (role: Role, name: RegExp): Promise<void> =>
    expect(async () => expect(await browser.click(role, name), `${role} ${name}`).toBe(true)).toPass({
      timeout: 90_000,
    });
  const sees = (text: string): Promise<void> =>
    expect
      .poll(() => browser.run<string>('document.body.innerText'), { message: text, timeout: 120_000 })
      .toContain(text);
  const count = (selector: string): Promise<number> =>
    browser.run<number>(`document.querySelectorAll(${JSON.stringify(selector)}).length`);

  await browser.open(ADDRESS);
  await click('button', /^Start a new hand-in/);
  await click('button', /^Try with practice photos/);
  await expect.poll(() => count('[aria-label^="Move page"]'), { timeout: 60_000 }).toBe(3);
  await expect
    .poll(() => browser.run<string>('document.body.innerText'), { timeout: 120_000 })
    .not.toMatch(/Finding the paper|Working/);
  await click('button', /^Page 1 of 3/);
  await click('button', /^Edges$/);
  await expect.poll(() => count('[role=slider]'), { timeout: 60_000 }).toBe(8);
  await browser.run('void document.querySelector("[role=slider]").focus()');
  const corner = (): Promise<string> =>
    browser.run<string>('document.querySelector("[role=slider]").getAttribute("aria-valuetext")');
  const before = await corner();
  for (let presses = 0; presses < 3; presses++) await browser.pressRight();
  expect(await corner()).not.toBe(before);
  await click('button', /^Use these edges/);
  await click('button', /^Rotate the page to the right/);
  await click('button', /^Order$/);
  await click('button', /^Later: move this page/);
  await click('link', /^Bind/);
  await click('button', /^Bind 3 pages/);
  await sees('This file is up to date.');
  // what a download would write
  await browser.run(`void (() => {
    const address = URL.createObjectURL;
    URL.createObjectURL = (file) => ((window.lastFile = file), address.call(URL, file));
  })()`);
  await click('button', /^Download/);
  const file = await browser.run<{ start: string; bytes: number }>(
    'window.lastFile.slice(0, 8).text().then((start) => ({ start, bytes: window.lastFile.size }))',
  );
  expect(file.start).toMatch(/^%PDF-1\.\d$/);
  expect(file.bytes).toBeGreaterThan(30_000);
  await click('link', /^Hand in/);
  await click('button', /^Shore log/);
  let isSent = false;
  await expect(async () => {
    if (!isSent && !(await browser.click('button', /^Looks fine/)))
      isSent = await browser.click('button', /^Hand it in( again)?$/);
    expect(await browser.run<string>('document.body.innerText')).toContain('This file has been received.');
  }).toPass({ timeout: 120_000 });
  await browser.reload();
  await sees('This file has been received.');
}
