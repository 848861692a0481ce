import { expect, test, type Page } from '@playwright/test';
import { photoNamed } from './photos';
import { addPhotos, allSaved, startHandIn, tiles } from './steps';

const desk = (page: Page) => page.getByRole('link', { name: /^Hand-in of/ });

test('a page and a hand-in are deleted, taken back, restored from the list, and deleted for good', async ({ page }) => {
  test.setTimeout(240_000);
  await startHandIn(page);
  const address = page.url();
  await addPhotos(page, [photoNamed('tides-1'), photoNamed('botany-1')]);
  await expect(tiles(page)).toHaveCount(2, { timeout: 60_000 });
  await expect(page.getByText(/^Finding the paper/)).toHaveCount(0, { timeout: 60_000 });
  await tiles(page).first().click();
  await page.getByRole('button', { name: 'Delete this page' }).click();
  await allSaved(page);
  await page.goto(address);
  await expect(tiles(page)).toHaveCount(1);
  await page.getByRole('button', { name: 'Undo deleting a page' }).click();
  await expect(tiles(page)).toHaveCount(2);
  await page.getByRole('button', { name: 'Redo deleting a page' }).click();
  await expect(tiles(page)).toHaveCount(1);

  await page.goto('/settings');
  await page.getByRole('button', { name: 'Show what was deleted' }).click();
  const list = page.getByRole('list', { name: 'What was deleted' });
  await expect(list.getByText('Kept for 30 more days')).toBeVisible();
  await page.getByRole('button', { name: /^Restore .*tides-1/ }).click();
  await expect(page.getByRole('heading', { name: 'Nothing was deleted' })).toBeVisible();
  await page.goto(address);
  await expect(tiles(page)).toHaveCount(2);

  await page.goto('/');
  await page.getByRole('button', { name: /^Delete Hand-in of/ }).click();
  await expect(desk(page)).toHaveCount(0);
  await page.getByRole('button', { name: /^Undo deleting Hand-in of/ }).click();
  await expect(desk(page)).toHaveCount(1);
  await page.getByRole('button', { name: /^Delete Hand-in of/ }).click();
  await expect(desk(page)).toHaveCount(0);
  await allSaved(page);
  await page.goto('/deleted');
  await page.getByRole('button', { name: /^Delete for good: Hand-in of/ }).click();
  await expect(page.getByText('Delete it with all its pages and files? This cannot be undone.')).toBeVisible();
  await page.getByRole('button', { name: /^Delete for good: Hand-in of/ }).click();
  await expect(page.getByRole('heading', { name: 'Nothing was deleted' })).toBeVisible();
  await allSaved(page);
  expect((await page.request.get(`/api/hand-ins/${address.split('/').at(-1)}`)).status()).toBe(404);
  await page.goto(address);
  await expect(page.getByRole('heading', { name: 'Not found' })).toBeVisible();
});

test('space is freed on this device, and what was dropped comes back when it is needed', async ({ page }) => {
  await startHandIn(page);
  const address = page.url();
  await addPhotos(page, [photoNamed('ropework-1')]);
  await expect(tiles(page)).toHaveCount(1, { timeout: 60_000 });
  await expect(page.getByText(/^Finding the paper/)).toHaveCount(0, { timeout: 60_000 });
  await allSaved(page);
  await page.goto('/settings');
  await expect(page.getByText(/^Fotoplan uses .* of .*\.$/)).toBeVisible();
  await page.getByRole('button', { name: /^Free .* on this device/ }).click();
  await expect(page.getByText(/freed\. The photos are on the server/)).toBeVisible();
  await page.goto(address);
  const fetched = page.waitForRequest(
    (request) => request.method() === 'GET' && /\/api\/originals\/[0-9a-f]{64}$/.test(request.url()),
  );
  await page.getByRole('link', { name: /^Bind/ }).click();
  await page.getByRole('button', { name: 'Bind 1 page' }).click();
  await fetched;
  await expect(page.getByText('This file is up to date.')).toBeVisible({ timeout: 120_000 });
});

test('a recovery code brings everything back on a new device; everything can be deleted, on every device', async ({
  page,
  browser,
}) => {
  test.setTimeout(240_000);
  await startHandIn(page);
  await addPhotos(page, [photoNamed('tides-1'), photoNamed('tides-2'), photoNamed('botany-1')]);
  await expect(tiles(page)).toHaveCount(3, { timeout: 60_000 });
  await allSaved(page);
  await page.goto('/');
  // there is work worth keeping now
  await page
    .getByRole('region', { name: 'Recovery code' })
    .getByRole('button', { name: 'Make a recovery code' })
    .click();
  await page.getByRole('button', { name: 'Make a recovery code' }).click();
  await expect(page.getByRole('img', { name: 'QR code of the recovery words' })).toBeVisible();
  const words = (await page.getByTestId('recovery-words').getByRole('listitem').allInnerTexts()).map((text) =>
    text.replace(/[^a-z]/g, ''),
  );
  expect(words).toHaveLength(12);
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save as a file: the recovery words' }).click();
  expect((await download).suggestedFilename()).toBe('Fotoplan recovery code.txt');
  await page.getByRole('button', { name: 'I have kept them' }).click();
  await expect(page.getByText(/^You have a code, made on/)).toBeVisible();
  await page.reload();
  await expect(page.getByTestId('recovery-words')).toHaveCount(0);

  const fresh = await (await browser.newContext({ viewport: { width: 390, height: 844 } })).newPage();
  await fresh.goto('/recover');
  await fresh.getByRole('textbox', { name: 'Recovery words' }).fill([...words].reverse().join(' '));
  await fresh.getByRole('button', { name: 'Bring everything back' }).click();
  await expect(fresh.getByText(/These words open nothing/)).toBeVisible();
  await fresh.goto('/');
  await fresh.goto(`/recover#${words.join('-')}`);
  await expect(fresh.getByRole('textbox', { name: 'Recovery words' })).toHaveValue(words.join(' '));
  await fresh.getByRole('button', { name: 'Bring everything back' }).click();
  await expect(fresh.getByText('Everything is back. Your hand-ins are on the desk.')).toBeVisible();
  const originals: string[] = [];
  fresh.on(
    'request',
    (request) => /\/api\/originals\/[0-9a-f]{64}$/.test(request.url()) && originals.push(request.url()),
  );
  await fresh.getByRole('button', { name: 'Go to the desk' }).click();
  await desk(fresh).click();
  await expect(tiles(fresh)).toHaveCount(3);
  await expect(fresh.getByTestId('page-board').locator('img')).toHaveCount(3, { timeout: 30_000 });
  // a board needs no whole photo
  expect(originals).toEqual([]);

  await fresh.goto('/settings');
  await fresh.getByRole('button', { name: 'Delete everything of mine' }).click();
  const sure = fresh.getByRole('button', { name: 'Delete everything for good' });
  await expect(sure).toBeDisabled();
  await fresh.getByRole('textbox', { name: /^Type “delete”/ }).fill('delete');
  await sure.click();
  await expect(fresh.getByRole('button', { name: 'Start a new hand-in' })).toBeVisible();
  await expect(desk(fresh)).toHaveCount(0);
  await expect(page.getByRole('heading', { name: 'This device was unlinked' })).toBeVisible();
  await fresh.context().close();
});
