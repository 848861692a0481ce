import { expect, test, type Page } from '@playwright/test';

/** What another version of the browser draws a little otherwise is no fault. */
const ALIKE = { maxDiffPixelRatio: 0.02 };

async function openParts(page: Page): Promise<void> {
  await page.setViewportSize({ width: 390, height: 1900 });
  await page.goto('/parts');
  await expect(page.getByRole('button', { name: 'Open a Dialog' })).toBeVisible();
  await page.evaluate(() => document.fonts.ready);
}

for (const colorScheme of ['light', 'dark'] as const)
  test(`the parts of the kit look as they did, ${colorScheme}`, async ({ page }) => {
    await page.emulateMedia({ colorScheme, reducedMotion: 'reduce' });
    await openParts(page);
    await expect(page).toHaveScreenshot(`parts-${colorScheme}.png`, ALIKE);
  });

test('the colours of the device show what is chosen', async ({ page }) => {
  await page.emulateMedia({ forcedColors: 'active' });
  await openParts(page);
  const outline = (name: string, role: 'radio' | 'button'): Promise<string> =>
    page
      .getByRole(role, { name, exact: true })
      .first()
      .evaluate((part) => getComputedStyle(part).outlineStyle);
  expect(await outline('Two', 'radio')).toBe('solid');
  expect(await outline('One', 'radio')).toBe('none');
  expect(await outline('Pressed', 'button')).toBe('solid');
});
