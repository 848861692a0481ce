import { expect, test } from '@playwright/test';
import { photoNamed } from './photos';
import { addPhotos, allSaved, startHandIn, tiles } from './steps';

test('a device without room says so where the photo was added, loses nothing, and goes on once there is room', async ({ page }) => {
  await page.addInitScript(() => {
    const put = Reflect.get(IDBObjectStore.prototype, 'put') as (this: IDBObjectStore, ...args: unknown[]) => IDBRequest<IDBValidKey>;
    IDBObjectStore.prototype.put = function (...args: unknown[]) {
      if ((window as unknown as { full?: boolean }).full === true && this.name === 'originals') throw new DOMException('no room', 'QuotaExceededError');
      return put.apply(this, args);
    };
  });
  await startHandIn(page);
  await addPhotos(page, [photoNamed('tides-1')]);
  await expect(tiles(page)).toHaveCount(1, { timeout: 60_000 });
  await page.evaluate(() => void Object.assign(window, { full: true }));
  await addPhotos(page, [photoNamed('tides-2')]);
  await expect(page.getByText(/no room left.*Free some space/).first()).toBeVisible({ timeout: 30_000 });
  await expect(tiles(page)).toHaveCount(1);
  await page.evaluate(() => void Object.assign(window, { full: false }));
  await addPhotos(page, [photoNamed('tides-2')]);
  await expect(tiles(page)).toHaveCount(2, { timeout: 60_000 });
  await allSaved(page);
});

test('a private window that keeps nothing says so before anything is shot', async ({ page }) => {
  await page.addInitScript(() => Object.defineProperty(window, 'indexedDB', { get: () => undefined }));
  await page.goto('/');
  await expect(page.getByText(/does not let Fotoplan keep pages. Leave private mode/).first()).toBeVisible();
});
