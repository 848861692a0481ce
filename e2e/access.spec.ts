import { expect, test, type Page } from '@playwright/test';
import { faults } from './accessible';
import { startHandIn, tiles } from './steps';

/** Nothing by day, and no colour by night: a theme changes nothing else. */
async function nothingWrong(page: Page): Promise<void> {
  expect(await faults(page)).toEqual([]);
  await page.emulateMedia({ colorScheme: 'dark' });
  expect(await faults(page, 'colours'), 'in the dark theme').toEqual([]);
  await page.emulateMedia({ colorScheme: 'light' });
}

test('axe finds nothing on any main view, light or dark', async ({ page }) => {
  test.setTimeout(240_000);
  await page.goto('/');
  await expect(page.getByRole('link', { name: /Set 4/ })).toBeVisible();
  await nothingWrong(page);
  await page.getByRole('link', { name: /Set 4/ }).click();
  await expect(tiles(page)).toHaveCount(3);
  await nothingWrong(page);
  await page.getByRole('button', { name: 'Choose pages' }).click();
  await tiles(page).first().click();
  await page.getByRole('button', { name: 'Move pages' }).click();
  await nothingWrong(page);
  await page.getByRole('button', { name: 'Done choosing' }).click();
  await page.getByRole('button', { name: 'Read the pages through' }).click();
  await expect(page.getByRole('img', { name: /as it will be read/ })).toBeVisible({ timeout: 90_000 });
  await nothingWrong(page);
  await page.getByRole('button', { name: 'Pages: back to' }).click();
  await tiles(page).first().click();
  await page.getByRole('button', { name: 'Light' }).click();
  await nothingWrong(page);
  await page.getByRole('button', { name: 'Mend: paint away thumbs, holes and stains' }).click();
  await expect(page.getByRole('application')).toBeVisible({ timeout: 90_000 });
  await nothingWrong(page);
  await page.getByRole('button', { name: 'Cancel: leave the mends as they were' }).click();
  await page.getByRole('button', { name: 'Edges', exact: true }).click();
  await expect(page.getByRole('slider')).toHaveCount(8);
  await nothingWrong(page);
  await page.getByRole('link', { name: /^Bind/ }).click();
  await expect(page.getByRole('textbox').first()).toBeVisible();
  await nothingWrong(page);
  await page.getByRole('link', { name: /^Hand in/ }).click();
  await expect(page.getByRole('list', { name: 'Still to do' })).toBeVisible();
  await nothingWrong(page);
  for (const place of ['Mail', 'Locker', 'This device'])
    await page.getByRole('radio', { name: place, exact: true }).click();
  await page.goto('/profile');
  await expect(page.getByRole('textbox', { name: 'Family name' })).toHaveValue('Tolvanen-Adeyemi');
  await nothingWrong(page);
  await page.goto('/link');
  await page.getByRole('button', { name: 'Make a code' }).click();
  await expect(page.getByRole('img', { name: /^QR code/ })).toBeVisible();
  await nothingWrong(page);
  await page.goto('/office');
  await expect(page.getByRole('heading', { name: 'Your submissions' })).toBeVisible();
  await nothingWrong(page);
});

test('axe finds nothing in the camera, without one, and in the settings', async ({ page }) => {
  await startHandIn(page);
  await page.getByRole('button', { name: 'Shoot pages' }).click();
  await expect(page.getByRole('heading', { name: 'No camera was found' })).toBeVisible();
  await nothingWrong(page);
  await page.getByRole('button', { name: 'Try the practice table' }).click();
  await expect(page.getByRole('dialog')).toBeVisible();
  await nothingWrong(page);
  await page.getByRole('button', { name: 'Skip the tips' }).click();
  await page.getByTestId('shutter').click();
  await expect(page.getByRole('list', { name: 'Pages kept' }).getByRole('button', { name: /^Page 1/ })).toBeVisible();
  await nothingWrong(page);
  await page.getByRole('button', { name: 'Settings and tips for the camera' }).click();
  await expect(page.getByRole('heading', { name: 'Settings' })).toBeVisible();
  await nothingWrong(page);
});

test('each browser has its own desk', async ({ page, browser }) => {
  await page.goto('/');
  await expect(page.getByRole('link', { name: /Set 4/ })).toBeVisible();
  await page.getByRole('button', { name: 'Start a new hand-in' }).click();
  await expect(page.getByRole('heading', { name: 'No pages yet' })).toBeVisible();
  await expect(page.getByText('All saved')).toBeVisible();
  const stranger = await browser.newContext();
  const other = await stranger.newPage();
  await other.goto(page.url());
  await expect(other.getByRole('heading', { name: 'Not found' })).toBeVisible();
  const answer = await stranger.request.get(`/api/hand-ins/${page.url().split('/').at(-1)}`);
  expect(answer.status()).toBe(404);
  await stranger.close();
});

test('an address that leads nowhere says so and offers the desk', async ({ page }) => {
  await page.goto('/nowhere/at/all');
  await expect(page.getByRole('heading', { name: 'Not found' })).toBeVisible();
  await page.getByRole('button', { name: 'Go to the desk' }).click();
  await expect(page.getByRole('link', { name: /Set 4/ })).toBeVisible();
});
