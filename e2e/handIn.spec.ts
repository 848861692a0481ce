import { execFileSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { writeFileSync } from 'node:fs';
import { PDFDocument } from '@cantoo/pdf-lib';
import { expect, test, type Browser, type Locator, type Page } from '@playwright/test';
import sharp from 'sharp';
import type { AssignmentsView } from '../contract/officeViews';
import type { Assignment } from '../core/work/office/assignment';
import { photoNamed } from './photos';
import { sentencesIn } from './sentences';
import { addPhotos, allSaved, startHandIn, tiles, unfold, setWeather } from './steps';

/* One file, one worker: what the office's weather does, it does to all who look at it. */
test.describe.configure({ mode: 'serial' });

const NAME = /Tolvanen-Adeyemi_SP-20417_Set4\.pdf/;

/** From the assignment on the desk through photos to a file that may be handed in. */
async function readySet4(page: Page, photos: readonly string[]): Promise<void> {
  await page.goto('/');
  await page.getByRole('link', { name: /^Set 4/ }).click();
  // one that others have begun on the demo's photos is left alone: this one starts bare and is attached
  await page
    .getByRole('link', { name: 'Desk' })
    .or(page.getByRole('button', { name: 'Desk' }))
    .first()
    .click();
  await page.getByRole('button', { name: 'Start a new hand-in' }).click();
  await addPhotos(page, [...photos]);
  await expect(tiles(page)).toHaveCount(photos.length, { timeout: 60_000 });
  await allSaved(page);
  await page.getByRole('link', { name: /^Hand in/ }).click();
  await page.getByRole('button', { name: /^Set 4: heights/ }).click();
  await page.getByRole('textbox', { name: 'Section (A to D)' }).fill('B');
}

async function bindAndCheck(page: Page): Promise<void> {
  await expect(page.getByText(/still being looked at/)).toHaveCount(0, { timeout: 90_000 });
  await page.getByRole('link', { name: /^Bind/ }).click();
  await page.getByRole('button', { name: /^Bind \d pages?( again)?$/ }).click();
  await expect(page.getByText('This file is up to date.')).toBeVisible({ timeout: 120_000 });
  await page.getByRole('button', { name: 'On to handing in' }).click();
  const doubts = page.getByRole('button', { name: /^Looks fine/ });
  await expect(page.getByText(/bound yet|since the file was bound/)).toHaveCount(0);
  await expect(page.getByText(/still being looked at/)).toHaveCount(0, { timeout: 60_000 });
  for (let i = 0; i < 12 && (await doubts.count()) > 0; i++) await doubts.first().click();
  await expect(page.getByRole('heading', { name: 'Ready' })).toBeVisible();
}

async function fileAtOffice(page: Page): Promise<Buffer> {
  const { receipts } = (await (await page.request.get('/office/api/submissions')).json()) as {
    receipts: { submissionId: string; assignmentId: string; withdrawn: boolean }[];
  };
  const newest = receipts.find(({ assignmentId, withdrawn }) => assignmentId === 'tides-set-4' && !withdrawn)!;
  return (await page.request.get(`/office/api/submissions/${newest.submissionId}/file`)).body();
}
const pagesIn = (file: Buffer): number => {
  writeFileSync('test-results/handed-in.pdf', file);
  execFileSync('qpdf', ['--check', 'test-results/handed-in.pdf']);
  return Number(/Pages:\s+(\d+)/.exec(execFileSync('pdfinfo', ['test-results/handed-in.pdf']).toString())![1]);
};

async function asReader(browser: Browser): Promise<Page> {
  const page = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();
  await page.goto('/office');
  await page.getByLabel('Student or staff number').fill('ST-0112');
  await page.getByLabel('PIN').fill('0112');
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.getByRole('heading', { name: 'Handed in' })).toBeVisible();
  return page;
}

test('from the assignment through photos to a receipt; the reader sees the pages; once more with a page added', async ({
  page,
  browser,
}) => {
  test.setTimeout(420_000);
  await setWeather(page, 'calm');
  await readySet4(page, [photoNamed('tides-1'), photoNamed('tides-2')]);
  await bindAndCheck(page);
  await expect(page.getByTestId('said-before')).toHaveText(
    /Tolvanen-Adeyemi_SP-20417_Set4\.pdf, PDF, 2 pages, .*as the work of Mira Tolvanen-Adeyemi, SP-20417/,
  );
  await page.getByRole('textbox', { name: /Comment for the reader/ }).fill('Question 6 is on page 2.');
  await page.getByRole('button', { name: 'Hand it in', exact: true }).click();
  await expect(page.getByRole('heading', { name: /^Receipt SP-/ }).first()).toBeVisible({ timeout: 30_000 });
  await expect(page.getByText(NAME).first()).toBeVisible();
  expect(pagesIn(await fileAtOffice(page))).toBe(2);

  const reader = await asReader(browser);
  await reader.getByRole('link', { name: NAME }).first().click();
  await expect(reader.locator('#pages[data-ready]')).toBeVisible({ timeout: 30_000 });
  await expect(reader.getByRole('img', { name: 'Page 2 of 2' })).toBeVisible();
  await expect(reader.getByText('Question 6 is on page 2.')).toBeVisible();
  await reader.getByLabel('Page (0 for the whole)').fill('1');
  await reader.getByLabel('Note').fill('A sheet is missing?');
  await reader.getByRole('button', { name: 'Send the note' }).click();

  await page.reload();
  await expect(page.getByText('Page 1: A sheet is missing?').first()).toBeVisible();
  await page.getByRole('link', { name: /^Pages/ }).click();
  await addPhotos(page, [photoNamed('tides-3')]);
  await expect(tiles(page)).toHaveCount(3, { timeout: 60_000 });
  await page.getByRole('link', { name: /^Hand in/ }).click();
  await bindAndCheck(page);
  await page.getByRole('button', { name: 'Hand it in again' }).click();
  await expect(page.getByText(/^Since attempt \d+: 1 page more/)).toBeVisible({ timeout: 30_000 });
  expect(pagesIn(await fileAtOffice(page))).toBe(3);
  await reader.context().close();
});

test('a broken line, a slow office and a refusal lose nothing and send nothing twice', async ({ page }) => {
  test.setTimeout(300_000);
  await setWeather(page, 'calm');
  await readySet4(page, [photoNamed('tides-1')]);
  await bindAndCheck(page);
  const count = async (): Promise<number> =>
    ((await (await page.request.get('/office/api/submissions')).json()) as { receipts: unknown[] }).receipts.length;
  const before = await count();
  const send = page.getByRole('button', { name: /^Hand it in( again)?$/ });

  await setWeather(page, 'refusing');
  await send.click();
  await expect(page.getByText(/Yours is not lost/)).toBeVisible({ timeout: 30_000 });
  await setWeather(page, 'down');
  await send.click();
  await expect(page.getByText(/does not answer|cannot be reached/)).toBeVisible({ timeout: 60_000 });
  expect(await page.getByRole('heading', { name: 'Ready' }).isVisible()).toBe(true);

  await setWeather(page, 'dropping');
  await send.click();
  await expect(page.getByText('This file has been received.')).toBeVisible({ timeout: 60_000 });
  await setWeather(page, 'slow');
  expect(await count()).toBe(before + 1);
  // the very same is not offered to be handed in again
  await expect(send).toHaveCount(0);
  await page
    .getByRole('button', { name: /^Withdraw receipt/ })
    .first()
    .click();
  await expect(page.getByText('Withdrawn').first()).toBeVisible();
  await expect(send).toBeVisible();
  await setWeather(page, 'calm');
});

test('the wrong account is pointed out; mail and locker take the file itself', async ({ page }) => {
  test.setTimeout(300_000);
  await page.goto('/');
  await page.getByRole('button', { name: 'Ready check of Plate 2: bowline and sheet bend' }).click();
  await expect(page.getByText(/One PDF, .* fits the 1 MB limit/)).toBeVisible({ timeout: 30_000 });
  await page.getByRole('button', { name: 'Sign out at the course office' }).click();
  await expect(page.getByText('You are not signed in at the course office.')).toBeVisible();
  const signIn = async (number: string, pin: string): Promise<void> => {
    await page.getByRole('textbox', { name: 'Student number' }).fill(number);
    await page.getByRole('textbox', { name: 'PIN' }).fill(pin);
    await page.getByRole('button', { name: 'Sign in', exact: true }).last().click();
  };
  await signIn('SP-20388', '9999');
  await expect(page.getByText('Number and PIN do not belong together', { exact: false })).toBeVisible();
  await signIn('SP-20388', '2038');
  await expect(page.getByText('This would go in as Jonas Hallqvist-Oduya, SP-20388.')).toBeVisible();

  await page.getByRole('radio', { name: 'Mail', exact: true }).click();
  await signIn('SP-20417', '2041');
  await page.getByRole('textbox', { name: 'To', exact: true }).fill('the office');
  await page.getByRole('button', { name: 'Send the mail' }).click();
  await expect(page.getByText('Write one mail address', { exact: false })).toBeVisible();
  await page.getByRole('button', { name: 'To myself' }).click();
  await page.getByRole('button', { name: 'Send the mail' }).click();
  await expect(page.getByText(/^Sent to sp-20417@skerrypoint.example with .*\.pdf, PDF/)).toBeVisible({
    timeout: 30_000,
  });
  const { messages } = (await (await page.request.get('/post/api/messages')).json()) as { messages: { id: string }[] };
  expect(
    (await (await page.request.get(`/post/api/messages/${messages[0]!.id}/attachment`)).body())
      .subarray(0, 5)
      .toString(),
  ).toBe('%PDF-');

  await page.getByRole('radio', { name: 'Locker', exact: true }).click();
  await signIn('SP-20417', '2041');
  await page.getByRole('button', { name: 'Ropework Drawing: open this folder' }).click();
  await page.getByRole('button', { name: 'New folder here' }).click();
  const folder = `Plates ${Date.now() % 100_000}`;
  await page.getByRole('textbox', { name: 'Name of the new folder' }).fill(folder);
  await page.getByRole('button', { name: 'Create the folder' }).click();
  await expect(page.getByText(`Ropework Drawing / ${folder}`)).toBeVisible();
  await page.getByRole('button', { name: 'Put it into this folder' }).click();
  await expect(page.getByText(/^Saved: /)).toBeVisible({ timeout: 30_000 });
  await page.getByRole('button', { name: 'Put it into this folder' }).click();
  await expect(page.getByText(/There is a file called/)).toBeVisible();
  await page.getByRole('button', { name: 'Keep both' }).click();
  await expect(page.getByText(/^Saved: .* \(2\)\.pdf/)).toBeVisible({ timeout: 30_000 });
});

/** Three pages as another program might write them; of noise, which nothing makes smaller, they have over 1.2 MB. */
async function foreignPdf(noisy: boolean): Promise<Buffer> {
  const pdf = await PDFDocument.create();
  const noise = sharp({
    create: {
      width: 700,
      height: 700,
      channels: 3,
      background: '#888',
      noise: { type: 'gaussian', mean: 128, sigma: 60 },
    },
  });
  const image = noisy ? await pdf.embedPng(await noise.png().toBuffer()) : null;
  for (let i = 1; i <= 3; i++) {
    const sheet = pdf.addPage([595.28, 841.89]);
    sheet.drawText(`Question ${i}`, { x: 60, y: 760, size: 24 });
    if (image !== null) sheet.drawImage(image, { x: 40, y: 200, width: 500, height: 500 });
  }
  return Buffer.from(await pdf.save());
}

/** Brings a PDF in, attaches it to Set 4, binds it, and goes on to handing in. */
async function boundForSet4(page: Page, buffer: Buffer, limit: RegExp): Promise<void> {
  await startHandIn(page);
  await addPhotos(page, [{ name: 'from-elsewhere.pdf', mimeType: 'application/pdf', buffer }]);
  await expect(tiles(page)).toHaveCount(3, { timeout: 60_000 });
  await page.getByRole('link', { name: /^Hand in/ }).click();
  await page.getByRole('button', { name: /^Set 4: heights/ }).click();
  await page.getByRole('link', { name: /^Bind/ }).click();
  await unfold(page, 'Limit');
  await page.getByRole('radio', { name: limit }).click();
  await page.getByRole('button', { name: 'Bind 3 pages' }).click();
  await page.getByRole('button', { name: 'On to handing in' }).click({ timeout: 30_000 });
}

/** What the office shows of an assignment in place of its rules, as if they had changed since they were read. */
async function believe(page: Page, lies: Readonly<Record<string, Partial<Assignment>>>): Promise<void> {
  await page.unrouteAll({ behavior: 'ignoreErrors' });
  await page.route('**/office/api/assignments', async (route) => {
    const response = await route.fetch({ maxRetries: 3 });
    const { assignments } = (await response.json()) as AssignmentsView;
    await route.fulfill({
      response,
      json: { assignments: assignments.map((each) => ({ ...each, ...lies[each.id] })) },
    });
  });
  await page.reload();
}

/** Changes what is sent, once it has been checked. */
const onTheWay = (
  page: Page,
  changes: { readonly sha256?: string; readonly fileName?: string; readonly fields?: string; readonly file?: string },
): Promise<void> =>
  page.evaluate(({ file, ...values }) => {
    const changed = (name: string, value: unknown): unknown =>
      name === 'file' && file !== undefined
        ? new Blob([file], { type: 'application/pdf' })
        : ((values as Record<string, string | undefined>)[name] ?? value);
    FormData.prototype.set = new Proxy(Reflect.get(FormData.prototype, 'set') as (...args: unknown[]) => undefined, {
      apply: (set, form, [name, value, ...rest]: [string, unknown, ...unknown[]]): unknown =>
        Reflect.apply(set, form, [name, changed(name, value), ...rest]),
    });
  }, changes);

test('each rule of the office is checked before anything is sent, and its refusal is said in its words', async ({
  page,
}) => {
  test.setTimeout(300_000);
  await setWeather(page, 'calm');
  const send = page.getByRole('button', { name: /^Hand it in( again)?$/ });
  const section = page.getByRole('textbox', { name: 'Section (A to D)' });
  // what was said to look fine is asked again after a reload, as soon as the pages were looked through
  const saidToLookFine = (): Promise<void> =>
    expect(async () => {
      for (const doubts = page.getByRole('button', { name: /^Looks fine/ }); (await doubts.count()) > 0;)
        await doubts.first().click({ timeout: 2000 });
      await expect(send).toBeVisible({ timeout: 500 });
    }).toPass({ timeout: 30_000 });
  const refused = async (says: RegExp): Promise<void> => {
    // a doubt may come up between the look and the tap: then both are done again
    await expect(async () => {
      await saidToLookFine();
      await send.click({ timeout: 2000 });
    }).toPass({ timeout: 60_000 });
    await expect(page.getByText(says)).toBeVisible({ timeout: 30_000 });
  };
  const lenient = { name: null, fields: [], maxBytes: 9_000_000 };

  await boundForSet4(page, await foreignPdf(true), /^No limit$/);
  await expect(page.getByText('Section (A to D) is missing.')).toBeVisible();
  await expect(page.getByText(/^The file has 1\.\d+ MB, and 1 MB is the limit\.$/)).toBeVisible();
  await expect(send).toHaveCount(0);
  await believe(page, { 'tides-set-4': lenient });
  await refused(/The file has 1\.\d+ MB; 1 MB are allowed\. Bind it under that limit\./);

  await believe(page, {});
  await boundForSet4(page, await foreignPdf(false), /^1 MB$/);
  await section.fill('B');
  await expect(page.getByText('Section (A to D) is missing.')).toHaveCount(0);
  await believe(page, { 'tides-set-4': { dueMs: Date.now() - 5 * 86_400_000 } });
  await expect(page.getByText('“Set 4: heights at a secondary port” is closed.')).toBeVisible();
  await expect(send).toHaveCount(0);

  // closed, or another field, since the rules were read
  await believe(page, { 'tides-set-4': { fields: [] } });
  await onTheWay(page, { fields: '{}' });
  await refused(/Section \(A to D\) is missing\. Fill it in/);
  await believe(page, {});
  await onTheWay(page, { fileName: 'scan0001.pdf' });
  await refused(/The file must be called “Tolvanen-Adeyemi_SP-20417_Set4\.pdf”/);
  await page.reload();
  await onTheWay(page, { file: 'a letter' });
  await refused(/not the one that was checked: it changed on its way/);
  await page.reload();
  await onTheWay(page, { file: 'a letter', sha256: createHash('sha256').update('a letter').digest('hex') });
  await refused(/not a PDF that can be opened/);

  // changed after it was ready: the old file is not offered any more
  await page.reload();
  await saidToLookFine();
  await page.getByRole('link', { name: /^Pages/ }).click();
  await tiles(page).first().click();
  await page.getByRole('button', { name: 'Rotate the page to the right' }).click();
  await page.getByRole('link', { name: /^Hand in/ }).click();
  await expect(page.getByText('Something changed since the file was bound.')).toBeVisible();
  await expect(send).toHaveCount(0);
  await page.getByRole('link', { name: /^Pages/ }).click();
  await page.getByRole('button', { name: /^Undo/ }).first().click();
  await page.getByRole('link', { name: /^Hand in/ }).click();
  // nothing of all this was kept by the office, and what was refused goes in as it is
  await saidToLookFine();
  await send.click();
  await expect(page.getByText('This file has been received.')).toBeVisible({ timeout: 30_000 });
  expect(pagesIn(await fileAtOffice(page))).toBe(3);
});

/** The most taps that pages may take from the desk to the receipt, beside one for each. */
const MOST_TAPS = 8;

for (const [language, count] of [
  ['en', 3],
  ['de', 2],
  ['ar', 2],
] as const)
  test.describe(`in ${language}`, () => {
    test.use({ locale: language });

    test(`${count} pages from the practice table to the receipt, in few taps`, async ({ page }) => {
      test.setTimeout(300_000);
      await setWeather(page, 'calm');
      const say = sentencesIn(language);
      let taps = 0;
      const tap = async (on: Locator): Promise<void> => {
        await on.click();
        taps++;
      };
      const button = (english: string, values?: Record<string, unknown>): Locator =>
        page.getByRole('button', { name: say(english, values), exact: true });
      await page.goto('/');
      await tap(button('Start a new hand-in'));
      await tap(button('Try the practice table'));
      await tap(button('Skip the tips'));
      const kept = page.getByRole('list', { name: say('Pages kept') }).getByRole('listitem');
      for (let shots = 1; shots <= count; shots++) {
        await expect(page.getByText(say('Good: shoot'))).toBeVisible({ timeout: 60_000 });
        await tap(page.getByTestId('shutter'));
        await expect(kept).toHaveCount(shots);
      }
      await tap(button('{count} kept{more}. Go to the pages', { count, more: '' }));
      const bind = button('{count, plural, one {Bind # page} other {Bind # pages}}', { count });
      await expect(bind).toBeVisible({ timeout: 60_000 });
      await tap(bind);
      await expect(page.getByText(say('This file is up to date.'))).toBeVisible({ timeout: 120_000 });
      await tap(page.getByRole('link', { name: new RegExp(`^${say('Hand in')}:`) }));
      await tap(page.getByRole('button', { name: /^Shore log/ }));
      // before, in another language, the same work may have been handed in
      await tap(button('Hand it in').or(button('Hand it in again')));
      await expect(page.getByText(say('This file has been received.'))).toBeVisible({ timeout: 60_000 });
      await expect(
        page.getByRole('heading', { name: say('Receipt {number}', { number: 'SP-' }) }).first(),
      ).toBeVisible();
      await page.reload();
      await expect(page.getByText(say('This file has been received.'))).toBeVisible({ timeout: 60_000 });
      expect(taps).toBeLessThanOrEqual(MOST_TAPS + count);
    });
  });
