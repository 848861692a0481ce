import { expect, test } from '@playwright/test';
import { unfit } from './fits';

test.use({ storageState: { cookies: [], origins: [] } });

test('the first visit says in three pictures what happens, once', async ({ page }) => {
  await page.goto('/');
  await expect(page.getByRole('heading', { name: 'From paper to one PDF' })).toBeVisible();
  await expect(page.getByRole('list', { name: 'What happens' }).getByRole('listitem')).toHaveCount(3);
  expect(await unfit(page)).toEqual([]);
  await page.getByRole('button', { name: 'Skip: go to the desk' }).click();
  await expect(page.getByRole('link', { name: /^Set 4/ })).toBeVisible();
  await page.reload();
  await expect(page.getByRole('link', { name: /^Set 4/ })).toBeVisible();
  await expect(page.getByRole('heading', { name: 'From paper to one PDF' })).toHaveCount(0);
});

test('the first visit leads straight to a hand-in', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('button', { name: 'Start a new hand-in' }).click();
  await expect(page.getByRole('heading', { name: 'No pages yet' })).toBeVisible();
});
