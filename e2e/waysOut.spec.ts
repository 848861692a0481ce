import { readFileSync } from 'node:fs';
import { expect, test } from '@playwright/test';
import { unzipSync } from 'fflate';
import sharp from 'sharp';
import { practicePhotos } from './photos';
import { addPhotos, startHandIn, tiles, unfold } from './steps';

test('the file is saved to a folder, which is remembered and can be taken back; pages leave as small pictures and through the clipboard', async ({
  page,
  context,
}) => {
  test.setTimeout(240_000);
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  // a folder of the browser's own stands in for one of this machine: nobody could choose in the picker
  await page.addInitScript(() => {
    const choose = async () =>
      (await navigator.storage.getDirectory()).getDirectoryHandle('Coursework', { create: true });
    Object.assign(globalThis, { showDirectoryPicker: choose });
  });
  await startHandIn(page);
  await addPhotos(page, practicePhotos().slice(0, 1));
  await expect(tiles(page)).toHaveCount(1, { timeout: 60_000 });
  await page.getByRole('button', { name: 'Bind 1 page' }).click();
  await expect(page.getByText('This file is up to date.')).toBeVisible({ timeout: 60_000 });

  await page.getByRole('button', { name: 'Save to a folder' }).click();
  await expect(page.getByText(/^Saved in “Coursework”: Hand-in of .*\.pdf$/)).toBeVisible();
  await page.reload();
  await page.getByRole('button', { name: 'Save to “Coursework”' }).click();
  await expect(page.getByText(/^Saved in “Coursework”: Hand-in of .* \(2\)\.pdf$/)).toBeVisible();
  const saved = await page.evaluate(async () => {
    const folder = await (await navigator.storage.getDirectory()).getDirectoryHandle('Coursework');
    const found: [string, string][] = [];
    for await (const [name, handle] of folder.entries())
      found.push([name, await (await (handle as FileSystemFileHandle).getFile()).slice(0, 5).text()]);
    return found;
  });
  expect(saved.map(([, start]) => start)).toEqual(['%PDF-', '%PDF-']);
  await page.evaluate(async () =>
    (await navigator.storage.getDirectory()).removeEntry('Coursework', { recursive: true }),
  );
  await page.getByRole('button', { name: 'Save to “Coursework”' }).click();
  await expect(page.getByText(/The folder “Coursework” is gone/)).toBeVisible();

  await unfold(page, 'Pages as pictures');
  await page.getByRole('radio', { name: '1200 px long' }).click();
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: /^as PNG/ }).click();
  const pictures = unzipSync(readFileSync(await (await download).path()));
  const { width, height } = await sharp(Buffer.from(pictures['page-01.png']!)).metadata();
  expect(Math.max(width, height)).toBe(1200);

  await page.getByRole('link', { name: /^Pages/ }).click();
  await tiles(page).first().click();
  await page.getByRole('button', { name: 'Order' }).click();
  await page.getByRole('button', { name: /^Copy as a picture/ }).click();
  await expect(page.getByText('Copied. Paste it where you want it.')).toBeVisible({ timeout: 30_000 });
  const type = await page.evaluate(async () => {
    const [item] = await navigator.clipboard.read();
    return createImageBitmap(await item!.getType('image/png')).then(({ width, height }) => Math.max(width, height));
  });
  expect(type).toBeGreaterThan(1200);
});
