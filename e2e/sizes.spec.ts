import { expect, test } from '@playwright/test';
import { unfit } from './fits';
import { tiles } from './steps';

const SIZES = [
  [320, 568],
  [390, 844],
  [844, 390],
  [820, 1180],
  [1280, 800],
] as const;

for (const text of [100, 200])
  test(`with text at ${text} % nothing is cut off at any size, and the paper is large`, async ({ page }) => {
    test.setTimeout(300_000);
    // as a browser does whose text was set larger
    await page.addInitScript((percent) => {
      document.addEventListener('readystatechange', () => {
        document.documentElement.style.fontSize = `${percent}%`;
      });
    }, text);
    await page.goto('/');
    for (const [width, height] of SIZES) {
      await page.setViewportSize({ width, height });
      const fits = async (view: string): Promise<void> =>
        expect.soft(await unfit(page), `${view}, ${width} × ${height}`).toEqual([]);
      await expect(page.getByRole('link', { name: /^Set 4/ })).toBeVisible();
      await fits('desk');
      await page.getByRole('link', { name: /^Set 4/ }).click();
      await expect(tiles(page).first()).toBeVisible();
      await fits('pages');
      await tiles(page).first().click();
      const paper = page.getByRole('img', { name: 'Page 1', exact: true });
      await expect(paper).toBeVisible({ timeout: 60_000 });
      await fits('page');
      await expect.poll(async () => (await paper.boundingBox())?.height ?? 0, { timeout: 60_000 }).toBeGreaterThan(100);
      const room = (await page.getByRole('main').boundingBox())!;
      const box = (await paper.boundingBox())!;
      const share = Math.max(box.width / room.width, box.height / room.height);
      if (text === 100) expect(share).toBeGreaterThanOrEqual(0.6);
      await page.getByRole('button', { name: 'Edges', exact: true }).click();
      await expect(page.getByRole('slider')).toHaveCount(8, { timeout: 60_000 });
      await fits('edges');
      await page.getByRole('button', { name: 'Cancel: leave the edges as they were' }).click();
      await page.getByRole('button', { name: 'Mark: write on the page' }).click();
      await expect(page.getByRole('application')).toBeVisible({ timeout: 60_000 });
      await fits('marks');
      await page.getByRole('button', { name: 'Cancel: leave the marks as they were' }).click();
      await page.getByRole('link', { name: /^Bind/ }).click();
      await expect(page.getByRole('textbox').first()).toBeVisible();
      await fits('bind');
      await page.getByRole('link', { name: /^Hand in/ }).click();
      await expect(page.getByRole('list', { name: 'Still to do' })).toBeVisible();
      await fits('hand in');
      await page.getByRole('button', { name: 'Desk: back to it' }).click();
    }
    for (const address of ['profile', 'settings', 'link']) {
      await page.goto(`/${address}`);
      for (const [width, height] of SIZES) {
        await page.setViewportSize({ width, height });
        await expect(page.getByRole('button').last()).toBeVisible();
        await expect.poll(() => unfit(page), { message: `${address}, ${width} × ${height}` }).toEqual([]);
      }
    }
  });
