import { expect, test, type Page } from '@playwright/test';
import { photoNamed } from './photos';
import { addPhotos, allSaved, startHandIn, tiles } from './steps';

/**
 * How much of the browser's room this site may use from now on, as a share of what it uses; null takes the limit away. What it
 * uses falls a little by itself, where something was sent meanwhile: just enough would be too much.
 */
async function setQuota(page: Page, share: number | null): Promise<void> {
  const client = await page.context().newCDPSession(page);
  const { origin } = new URL(page.url());
  const { usage } = await client.send('Storage.getUsageAndQuota', { origin });
  await client.send('Storage.overrideQuotaForOrigin', {
    origin,
    ...(share === null ? {} : { quotaSize: Math.round(share * usage) }),
  });
}

test('a browser whose room is used up says so where the photo was added, loses nothing, and goes on once there is room', async ({
  page,
}) => {
  await startHandIn(page);
  await addPhotos(page, [photoNamed('tides-1')]);
  await expect(tiles(page)).toHaveCount(1, { timeout: 60_000 });
  await allSaved(page);
  await setQuota(page, 0.5);
  await addPhotos(page, [photoNamed('tides-2')]);
  await expect(page.getByText(/no room left for Fotoplan\. Free some space \(Settings/).first()).toBeVisible({
    timeout: 30_000,
  });
  await expect(tiles(page)).toHaveCount(1);
  await page.reload();
  await expect(tiles(page)).toHaveCount(1);
  await setQuota(page, null);
  await addPhotos(page, [photoNamed('tides-2')]);
  await expect(tiles(page)).toHaveCount(2, { timeout: 60_000 });
  await allSaved(page);
});

test('a private window that refuses blobs keeps photos all the same: found, bound, and there after a reload', async ({
  page,
}) => {
  test.setTimeout(240_000);
  // as WebKit's private windows do: no file system, and no blob goes into IndexedDB, wherever in a value it is
  await page.addInitScript(() => {
    Object.defineProperty(navigator, 'storage', { get: () => undefined });
    const holdsBlob = (value: unknown): boolean =>
      value instanceof Blob ||
      (typeof value === 'object' &&
        value !== null &&
        !ArrayBuffer.isView(value) &&
        Object.values(value).some(holdsBlob));
    for (const name of ['put', 'add'] as const) {
      const real = Reflect.get(IDBObjectStore.prototype, name) as (
        this: IDBObjectStore,
        ...args: unknown[]
      ) => IDBRequest<IDBValidKey>;
      IDBObjectStore.prototype[name] = function (...args: unknown[]) {
        if (holdsBlob(args[0]))
          throw new DOMException('Error preparing Blob/File data to be stored in object store', 'UnknownError');
        return real.apply(this, args);
      };
    }
  });
  await startHandIn(page);
  await addPhotos(page, [photoNamed('tides-1'), photoNamed('botany-1')]);
  await expect(tiles(page)).toHaveCount(2, { timeout: 60_000 });
  await expect(page.getByText(/^Finding the paper/)).toHaveCount(0, { timeout: 60_000 });
  await page.getByRole('link', { name: /^Bind/ }).click();
  await page.getByRole('button', { name: 'Bind 2 pages' }).click();
  await expect(page.getByText('This file is up to date.')).toBeVisible({ timeout: 120_000 });
  await allSaved(page);
  await page.reload();
  await expect(page.getByText('This file is up to date.')).toBeVisible({ timeout: 60_000 });
  await page.getByRole('link', { name: /^Pages/ }).click();
  await expect(tiles(page)).toHaveCount(2);
  // without the server, from this device alone
  await page.context().setOffline(true);
  await tiles(page).first().click();
  await expect(page.getByRole('img', { name: 'Page 1', exact: true })).toBeVisible({ timeout: 60_000 });
});

test('a window that keeps nothing says so before anything is shot', async ({ page }) => {
  await page.addInitScript(() => Object.defineProperty(window, 'indexedDB', { get: () => undefined }));
  await page.goto('/');
  await expect(page.getByText('This private window keeps nothing. Open Fotoplan in a normal window.')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Try again' })).toBeVisible();
});

test('a newer version in another tab asks this one to reload; an older tab is asked to be closed, and then all goes on', async ({
  page,
  context,
}) => {
  await startHandIn(page);
  await allSaved(page);
  const other = await context.newPage();
  await other.goto('/manifest.webmanifest');
  await other.evaluate(
    () =>
      new Promise((resolve) => {
        const request = indexedDB.open('fotoplan', 99);
        request.onsuccess = () => {
          request.result.close();
          resolve(null);
        };
      }),
  );
  await expect(page.getByRole('heading', { name: 'Reload this tab' })).toBeVisible();
  // as when the newer version had been taken back: the device's store is as it was
  await other.evaluate(() => new Promise((resolve) => (indexedDB.deleteDatabase('fotoplan').onsuccess = resolve)));
  await other.evaluate(
    () =>
      new Promise((resolve) => {
        const request = indexedDB.open('fotoplan', 5);
        request.onupgradeneeded = () => {
          for (const store of ['handIns', 'originals']) request.result.createObjectStore(store, { keyPath: 'id' });
          request.result.createObjectStore('boundFiles', { keyPath: 'handInId' });
          request.result.createObjectStore('outbox', { autoIncrement: true });
          request.result.createObjectStore('histories', { keyPath: 'handInId' });
          for (const store of ['device', 'seen', 'profile']) request.result.createObjectStore(store);
        };
        request.onsuccess = () => resolve(Object.assign(window, { old: request.result }) === null);
      }),
  );
  await page.getByRole('button', { name: 'Reload' }).click();
  await expect(page.getByRole('heading', { name: 'Close the other tab' })).toBeVisible();
  await other.close();
  await expect(page.getByRole('button', { name: /^Add photos|^Start a new hand-in/ }).first()).toBeVisible();
});

test('a screen that breaks shows a way back, and what nobody waited for is told', async ({ page }) => {
  await startHandIn(page);
  await allSaved(page);
  await page.evaluate(() =>
    Object.assign(Intl, {
      whole: Intl.DateTimeFormat,
      DateTimeFormat: () => {
        throw new Error('broken for the test');
      },
    }),
  );
  await page.getByRole('button', { name: 'Desk: back to it' }).click();
  await expect(page.getByRole('heading', { name: 'This screen stopped working' })).toBeVisible();
  await page.evaluate(() => Object.assign(Intl, { DateTimeFormat: Reflect.get(Intl, 'whole') as unknown }));
  await page.getByRole('button', { name: 'Go to the desk' }).click();
  await expect(page.getByRole('link', { name: /^Hand-in of/ })).toBeVisible();
  await page.evaluate(() => void Promise.reject(new Error('nobody waited')));
  await expect(page.getByRole('alert').getByText(/Something did not work just now/)).toBeVisible();
  await page.getByRole('button', { name: 'Close this notice' }).click();
  await expect(page.getByText(/Something did not work just now/)).toHaveCount(0);
});
