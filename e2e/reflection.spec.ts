import { expect, test } from '@playwright/test';
import sharp from 'sharp';
import { photograph } from '../demo/camera/photograph';
import { createScene, type ScenePatch } from '../demo/camera/scene';
import { addPhotos, allSaved, startHandIn, tiles } from './steps';

/** A printed page under a lamp that shines, shot from so far to the side. */
async function shot(name: string, tiltRad: number, azimuthRad: number, seed = 3) {
  const patch: ScenePatch = {
    desk: 'wood',
    light: 'glare',
    page: { kind: 'printed', size: 'a4', seed },
    shape: { kind: 'flat' },
    thumb: false,
    underSheet: false,
    headingRad: 0.05,
    offCentre: { x: 0, y: 0 },
    camera: { widthPx: 1200, heightPx: 1600, tiltRad, azimuthRad, blurPx: 0.6, motionPx: 0, noise: 0.006, fill: 0.86 },
  };
  const { width, height, data } = photograph(createScene(2007, patch)).image;
  const raw = { width, height, channels: 3 } as const;
  return { name, mimeType: 'image/jpeg', buffer: await sharp(data, { raw }).jpeg({ quality: 92 }).toBuffer() };
}

test('what a reflection hides is filled from a second photo, and comes back with Undo', async ({ page }) => {
  test.setTimeout(180_000);
  await startHandIn(page);
  await addPhotos(page, [await shot('shines.jpg', 0.12, 1)]);
  await expect(tiles(page)).toHaveCount(1, { timeout: 60_000 });
  await allSaved(page);
  await tiles(page).first().click();
  const fill = page.getByRole('button', { name: /^Fill the reflection/ });
  await expect(page.getByRole('img', { name: /^The reflection: what/ })).toBeVisible({ timeout: 60_000 });
  await fill.click();
  await expect(page.getByText('Second photo of page 1: all of it, from further to the side')).toBeVisible();
  // another page is of no use, and does no harm
  await addPhotos(page, [await shot('another.jpg', 0.35, 3.5, 8)]);
  await expect(page.getByRole('alert').getByText(/does not show the same page/)).toBeVisible({ timeout: 60_000 });
  await addPhotos(page, [await shot('from the side.jpg', 0.35, 3.5)]);
  await expect(page.getByText('The reflection on page 1 is filled', { exact: true })).toBeVisible({ timeout: 60_000 });
  await page.getByRole('button', { name: 'Look at it' }).click();
  await expect(
    page
      .getByRole('heading', { name: /Page 1/ })
      .or(page.getByText('Page 1 of 1'))
      .first(),
  ).toBeVisible();
  await expect(fill).toHaveCount(0);
  await allSaved(page);
  await page.getByRole('button', { name: 'Undo filling a reflection' }).click();
  await expect(fill).toBeVisible();
});
