import { expect, test } from '@playwright/test';
import sharp from 'sharp';
import { bookShotOf } from '../bench/bends/book';
import { addPhotos, allSaved, startHandIn, tiles } from './steps';

test('a photo of an open book that lies sideways becomes two pages the right way up, and one again', async ({
  page,
}) => {
  test.setTimeout(180_000);
  const { shot } = await bookShotOf(702);
  const { width, height, data } = shot.image;
  const buffer = await sharp(data, { raw: { width, height, channels: 3 } })
    .jpeg({ quality: 90 })
    .toBuffer();
  await startHandIn(page);
  await addPhotos(page, [{ name: 'book.jpg', mimeType: 'image/jpeg', buffer }]);
  await expect(tiles(page)).toHaveCount(1, { timeout: 60_000 });
  await allSaved(page);
  await tiles(page).first().click();
  const order = page.getByRole('button', { name: 'Order', exact: true });
  await order.click();
  await page.getByRole('button', { name: 'Open book: make two pages' }).click();
  await expect(page.getByRole('button', { name: 'Undo making two pages' })).toBeVisible({ timeout: 60_000 });
  await expect(page.getByRole('button', { name: 'Open book: make two pages' })).toHaveCount(0);
  await page.getByRole('link', { name: /^Pages/ }).click();
  await expect(tiles(page)).toHaveCount(2);
  // B5 pages stand: a sheet that lies would be drawn broader than high
  for (const tile of await tiles(page).all()) {
    const picture = tile.locator('img').first();
    await expect
      .poll(() => picture.evaluate((img: HTMLImageElement) => img.naturalHeight / img.naturalWidth), {
        timeout: 60_000,
      })
      .toBeGreaterThan(1.2);
  }
  await page.getByRole('button', { name: 'Undo making two pages' }).click();
  await expect(tiles(page)).toHaveCount(1);
});
