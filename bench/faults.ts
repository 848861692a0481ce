import { spawn, type ChildProcess } from 'node:child_process';
import { createHash, randomInt } from 'node:crypto';
import { mkdtempSync, readdirSync, readFileSync, readlinkSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { chromium, type BrowserContext, type Page } from '@playwright/test';
import { PDFDocument } from '@cantoo/pdf-lib';
import sharp from 'sharp';
import type { HandIn } from '../core/handIn/handIn';
import { wholePhotoRecipe } from '../core/recipe/plainRecipe';
import { BROWSER } from '../playwright.config';
import { integrityProblem } from '../server/keeping/backup';

/*
 * Kills the server and the browser (SIGKILL) at random moments of scripted work, again and again, and then looks whether
 * everything that had been acknowledged is there, hash for hash.
 *   node dist/faults.mjs [KILLS] [PHOTO_FOLDER] [MINUTES]
 */

const KILLS = Number(process.argv[2] ?? 100);
const PHOTOS = process.argv[3] ?? '.cache/e2e-data/practice-photos';
/** From one kill to the next, on average; spread over an hour the work in between is spread too. */
const PACE_MS = process.argv[4] === undefined ? 1400 : (Number(process.argv[4]) * 60_000) / KILLS;
const PORT = 4491;
const URL = `http://localhost:${PORT}`;
const folder = mkdtempSync(path.join(tmpdir(), 'fotoplan-faults-'));
/** What did not hold; with any the script ends with 1. */
const failures: string[] = [];
const sha256 = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex');

let server: ChildProcess;
const isUp = (): Promise<boolean> =>
  fetch(`${URL}/livez`).then(
    (r) => r.ok,
    () => false,
  );
async function start(): Promise<void> {
  server = spawn(process.execPath, ['dist/server.mjs'], {
    env: { ...process.env, PORT: String(PORT), DATA_DIR: path.join(folder, 'data'), DEMO: '1', LOG_LEVEL: 'warn' },
    stdio: ['ignore', 'ignore', 'inherit'],
  });
  while (!(await isUp())) await pause(50);
}
async function killServer(): Promise<void> {
  const gone = new Promise((resolve) => server.once('close', resolve));
  server.kill('SIGKILL');
  await gone;
  await start();
}

/** A student who works through the API, tries again what was not answered, and remembers what was. */
class Worker {
  private cookie = '';
  private readonly device = Buffer.from(Array.from({ length: 32 }, () => randomInt(256))).toString('base64url');
  private seq = 0;
  readonly originals = new Map<string, Buffer>();
  readonly turns = new Map<string, number>();
  readonly receipts: string[] = [];
  repeats = 0;
  stopped = false;
  constructor(readonly n: number) {}

  private async send(at: string, init: RequestInit = {}): Promise<Response> {
    for (;;) {
      try {
        const response = await fetch(`${URL}${at}`, {
          ...init,
          headers: {
            ...(init.headers as Record<string, string>),
            cookie: this.cookie,
            'x-fotoplan-device': this.device,
          },
        });
        for (const set of response.headers.getSetCookie())
          this.cookie = [
            ...this.cookie.split('; ').filter((each) => each !== '' && each.split('=')[0] !== set.split('=')[0]),
            set.split(';')[0]!,
          ].join('; ');
        await response.clone().arrayBuffer();
        if (response.status >= 500) throw new Error(String(response.status));
        if (response.status >= 400) throw new Error(`refused: ${response.status} ${await response.text()}`);
        return response;
      } catch (error) {
        if (error instanceof Error && error.message.startsWith('refused')) throw error;
        this.repeats++;
        await pause(100);
      }
    }
  }
  private json = (at: string, body: unknown): Promise<Response> =>
    this.send(at, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) });

  get handInId(): string {
    return `hand-in-of-${this.n}`;
  }

  async work(): Promise<void> {
    const stamp = () => ({ id: `op-${this.n}-${++this.seq}`.padEnd(9, '-'), handInId: this.handInId, atMs: this.seq });
    await this.json('/api/operations', {
      operations: [{ ...stamp(), kind: 'createHandIn', title: 'Set 4', paper: 'auto' }],
    });
    await this.json('/office/api/session', { number: 'SP-20388', pin: '2038' });
    while (!this.stopped) {
      const photo = Buffer.concat([
        await sharp({
          create: { width: 300, height: 424, channels: 3, background: { r: randomInt(256), g: 90, b: 120 } },
        })
          .jpeg()
          .toBuffer(),
        Buffer.from(String(Math.random())),
        Buffer.alloc(randomInt(900_000)),
      ]);
      const id = sha256(photo);
      await this.send(`/api/originals/${id}`, { method: 'PUT', body: photo as never });
      this.originals.set(id, photo);
      const pageId = `page-${this.n}-${this.seq}`.padEnd(9, '-');
      const recipe = wholePhotoRecipe(300, 424, 'daylight');
      await this.json('/api/operations', {
        operations: [
          { ...stamp(), kind: 'addPage', pageId, originalId: id, fileName: 'a.jpg', width: 300, height: 424, recipe },
        ],
      });
      const turns = randomInt(4);
      await this.json('/api/operations', {
        operations: [{ ...stamp(), kind: 'setRecipe', pageId, recipe: { ...recipe, quarterTurns: turns } }],
      });
      this.turns.set(pageId, turns);
      if (this.seq % 7 === 0) await this.handIn();
      await pause(randomInt(Math.ceil(PACE_MS / 10)));
    }
  }

  private async handIn(): Promise<void> {
    const pdf = await PDFDocument.create();
    pdf.addPage();
    pdf.addPage();
    const file = Buffer.concat([await pdf.save(), Buffer.from(`\n%${this.n} ${this.seq}\n`)]);
    for (;;) {
      const form = new FormData();
      for (const [name, value] of Object.entries({
        key: `fault-key-${this.n}-${this.seq}`,
        offset: '0',
        sha256: sha256(file),
        fileName: 'a.pdf',
        fields: '{}',
      }))
        form.set(name, value);
      form.set('file', new Blob([file]), 'a.pdf');
      let ticket = (await (
        await this.send('/office/api/assignments/botany-shore-log/submissions', { method: 'POST', body: form })
      ).json()) as { state: string; submissionId: string; receipt?: { number: string; sha256: string } };
      while (ticket.state === 'queued') {
        await pause(200);
        ticket = (await (await this.send(`/office/api/tickets/${ticket.submissionId}`)).json()) as typeof ticket;
      }
      if (ticket.state === 'accepted') this.receipts.push(ticket.receipt!.number);
      return;
    }
  }

  /** What is missing of what was acknowledged. */
  async missing(): Promise<string[]> {
    const missing: string[] = [];
    for (const [id, photo] of this.originals) {
      const back = Buffer.from(await (await this.send(`/api/originals/${id}`)).arrayBuffer());
      if (!back.equals(photo)) missing.push(`original ${id}`);
    }
    const handIn = (await (await this.send(`/api/hand-ins/${this.handInId}`)).json()) as HandIn;
    for (const [pageId, turns] of this.turns)
      if (handIn.pages.filter((page) => page.id === pageId && page.recipe.quarterTurns === turns).length !== 1)
        missing.push(`recipe of ${pageId}`);
    const { receipts } = (await (await this.send('/office/api/submissions')).json()) as {
      receipts: { number: string }[];
    };
    for (const number of this.receipts)
      if (receipts.filter((receipt) => receipt.number === number).length !== 1) missing.push(`receipt ${number}`);
    return missing;
  }
}

async function serverKills(kills: number): Promise<void> {
  const workers = [0, 1, 2].map((n) => new Worker(n));
  const working = workers.map((worker) => worker.work());
  for (let k = 0; k < kills; k++) {
    await pause(300 + randomInt(2 * PACE_MS - 600));
    await killServer();
  }
  for (const worker of workers) worker.stopped = true;
  await Promise.all(working);
  const missing = (await Promise.all(workers.map((worker) => worker.missing()))).flat();
  const sum = (of: (worker: Worker) => number): number => workers.reduce((total, worker) => total + of(worker), 0);
  console.log(
    `server killed ${kills} times: ${sum((w) => w.originals.size)} originals, ${sum((w) => w.turns.size)} recipes, ${sum((w) => w.receipts.length)} receipts acknowledged, ${sum((w) => w.repeats)} tries repeated; missing ${missing.length}`,
  );
  for (const each of missing.slice(0, 10)) console.log(`  ${each}`);
  if (missing.length > 0) failures.push(`${missing.length} things that were acknowledged are missing`);
}

const PHONE = { ...BROWSER, viewport: { width: 390, height: 844 } };
const tiles = (page: Page) => page.getByRole('button', { name: /^Page \d+ of \d+/ });

async function browserKills(kills: number): Promise<void> {
  const profile = path.join(folder, 'profile');
  const photos = readdirSync(PHOTOS)
    .filter((name) => name.endsWith('.jpg'))
    .map((name) => path.join(PHOTOS, name));
  let address = `${URL}/`;
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
        const now = await tiles(page).count();
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
      const until = Date.now() + randomInt(2 * PACE_MS + 700);
      while (Date.now() < until) {
        shown = Math.max(shown, await tiles(page).count());
        await pause(60);
      }
      if (k % 3 === 0) await killServer();
    } catch (error) {
      failures.push(`browser round ${k}: ${error instanceof Error ? error.message.split('\n')[0] : String(error)}`);
    }
    await kill();
  }
  const { context, page } = await open();
  await page.goto(address);
  await page.getByText('All saved').waitFor({ timeout: 120_000 });
  const kept = shown === 0 ? 0 : await tiles(page).count();
  const id = /hand-in\/([^/?]+)/.exec(address)![1]!;
  const handIn = (await (await page.request.get(`${URL}/api/hand-ins/${id}`)).json()) as HandIn;
  const pages = handIn.pages.filter(({ removedAtMs }) => removedAtMs === null);
  let whole = 0;
  for (const originalId of new Set(pages.map((each) => each.originalId)))
    if (sha256(await (await page.request.get(`${URL}/api/originals/${originalId}`)).body()) === originalId) whole++;
  await context.close();
  console.log(
    `browser killed ${kills} times (the server with it ${Math.ceil(kills / 3)} times): ${shown} pages shown as kept, lost on the way ${lost}, there at the end ${kept}, on the server ${pages.length}, of ${new Set(pages.map((each) => each.originalId)).size} originals whole ${whole}`,
  );
  if (lost > 0 || kept < shown || pages.length !== kept || whole < new Set(pages.map((each) => each.originalId)).size)
    failures.push('pages or originals were lost with the browser');
}

const began = Date.now();
await start();
await serverKills(Math.ceil(KILLS / 2));
await browserKills(Math.floor(KILLS / 2));
server!.kill('SIGTERM');
await new Promise((resolve) => server.once('close', resolve));
const problems = ['fotoplan', 'bytes'].map((name) => integrityProblem(path.join(folder, 'data', `${name}.sqlite`)));
console.log(
  `data files: ${problems.map((problem) => problem ?? 'whole').join(', ')}; ${Math.round((Date.now() - began) / 60_000)} minutes`,
);
if (problems.some((problem) => problem !== null)) failures.push('data files are not whole');
for (const failure of failures) console.log(`FAILED: ${failure}`);
rmSync(folder, { recursive: true, force: true });
process.exitCode = failures.length === 0 ? 0 : 1;
