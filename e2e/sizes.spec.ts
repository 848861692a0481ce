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

const CASES = SIZES.flatMap(([width, height]) => [100, 200].map((text) => [width, height, text] as const));

for (const [width, height, text] of CASES)
  test(`at ${width} × ${height} with text at ${text} % nothing is cut off, and the paper is large`, async ({
    page,
  }) => {
    test.setTimeout(120_000);
    await page.setViewportSize({ width, height });
    // as a browser does whose text was set larger
    await page.addInitScript((percent) => {
      document.addEventListener('readystatechange', () => {
        document.documentElement.style.fontSize = `${percent}%`;
      });
    }, text);
    const fits = async (view: string): Promise<void> => expect.soft(await unfit(page), view).toEqual([]);
    await page.goto('/');
    await expect(page.getByRole('link', { name: /^Set 4/ })).toBeVisible();
    await fits('desk');
    await page.getByRole('link', { name: /^Set 4/ }).click();
    await expect(tiles(page).first()).toBeVisible();
    await fits('pages');
    await tiles(page).first().click();
    await expect(page.getByRole('img', { name: 'Page 1', exact: true })).toBeVisible({ timeout: 60_000 });
    await fits('page');
    const paper = page.getByRole('img', { name: 'Page 1', exact: true });
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
    for (const address of ['profile', 'settings', 'link']) {
      await page.goto(`/${address}`);
      await expect(page.getByRole('button').last()).toBeVisible();
      await fits(address);
    }
  });
