import { expect, test } from '@playwright/test';
import { tiles } from './steps';

test('pages, page and tools stand side by side, and corners answer to the keys', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('link', { name: /Set 4/ }).click();
  await expect(tiles(page)).toHaveCount(3);
  await expect(page.getByRole('toolbar', { name: 'Page tools' })).toBeVisible();
  await tiles(page).nth(2).click();
  await expect(page.getByText('Page 3 of 3')).toBeVisible();
  await page.getByRole('button', { name: 'Earlier: move this page' }).click();
  await expect(page.getByText('Page 2 of 3')).toBeVisible();

  await page.getByRole('button', { name: 'Edges', exact: true }).click();
  const corner = page.getByRole('slider', { name: 'Corner bottom right' });
  await corner.focus();
  const value = async (): Promise<number[]> =>
    (await corner.getAttribute('aria-valuetext'))!.match(/\d+/g)!.map(Number);
  const [x, y] = await value();
  await page.keyboard.press('ArrowLeft');
  await page.keyboard.press('Shift+ArrowUp');
  await expect.poll(value).toEqual([x! - 1, y! - 10]);
  // crossing the opposite side is prevented, with the reason
  for (let i = 0; i < 400 && !(await page.getByText('The sides cross each other').isVisible()); i += 40) {
    for (let k = 0; k < 40; k++) await page.keyboard.press('Shift+ArrowLeft');
  }
  await expect(page.getByText('The sides cross each other')).toBeVisible();
  await page.getByRole('button', { name: 'Detect again: the edges of the page' }).click();
  await expect.poll(async () => Math.abs((await value())[0]! - x!)).toBeLessThan(3);
  await page.getByRole('button', { name: 'Use these edges' }).click();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('button', { name: 'Undo the edges' })).toBeVisible();
});

test('a hand-in can be made with the keyboard alone', async ({ page }) => {
  await page.goto('/');
  await expect(page.getByRole('link', { name: /Set 4/ })).toBeVisible();
  await page.getByRole('button', { name: 'Start a new hand-in' }).focus();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'No pages yet' })).toBeVisible();
  await page.getByRole('button', { name: 'Try with practice photos' }).focus();
  await page.keyboard.press('Enter');
  await expect(tiles(page)).toHaveCount(3, { timeout: 60_000 });
  await page.getByRole('link', { name: /^Bind/ }).focus();
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Bind 3 pages' }).focus();
  await page.keyboard.press('Enter');
  await expect(page.getByText('This file is up to date.')).toBeVisible({ timeout: 60_000 });
});
