import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import path from 'node:path';
import { pathToFileURL } from 'node:url';
import { expect, test } from '@playwright/test';
import sharp from 'sharp';
import { photoNamed } from './photos';
import { sheetsOf } from './sheets';
import { addPhotos, allSaved, startHandIn, tiles, unfold } from './steps';

interface PdfPage {
  view: number[];
}

/** Opens a file with pdf.js, as a browser's reader would. */
async function openWithPdfJs(file: string): Promise<{ pages: PdfPage[]; title: string }> {
  const entry = createRequire(path.resolve('package.json')).resolve('pdfjs-dist/legacy/build/pdf.mjs');
  const { getDocument } = (await import(pathToFileURL(entry).href)) as {
    getDocument: (from: object) => {
      promise: Promise<{
        numPages: number;
        getPage(n: number): Promise<PdfPage>;
        getMetadata(): Promise<{ info: { Title: string } }>;
      }>;
    };
  };
  const pdf = await getDocument({ data: new Uint8Array(readFileSync(file)), verbosity: 0 }).promise;
  const pages = await Promise.all(Array.from({ length: pdf.numPages }, (_, i) => pdf.getPage(i + 1)));
  return { pages, title: (await pdf.getMetadata()).info.Title };
}

test('three photos become one PDF: a corner dragged, a page turned, the order changed', async ({ page }, info) => {
  await startHandIn(page);
  await addPhotos(page, [photoNamed('tides-1'), photoNamed('tides-3'), photoNamed('ropework-1')]);
  await expect(tiles(page)).toHaveCount(3, { timeout: 60_000 });
  for (const tile of await tiles(page).all()) {
    await expect.poll(async () => (await tile.locator('img').boundingBox())?.height ?? 0).toBeGreaterThan(100);
  }
  // a corner set before the paper is found keeps the desk around the other three
  await expect(page.getByText(/^Finding the paper/)).toHaveCount(0, { timeout: 60_000 });

  // drag one corner inwards and see that the outline is now the person's
  await tiles(page).nth(0).click();
  await page.getByRole('button', { name: 'Edges', exact: true }).click();
  const corner = page.getByRole('slider', { name: 'Corner top left' });
  await expect(corner).toBeVisible();
  const before = await corner.getAttribute('aria-valuetext');
  const box = (await corner.boundingBox())!;
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width / 2 + 18, box.y + box.height / 2 + 12, { steps: 6 });
  await page.mouse.up();
  await expect(corner).not.toHaveAttribute('aria-valuetext', before!);
  await page.getByRole('button', { name: 'Use these edges' }).click();
  await expect(page.getByRole('button', { name: 'Undo the edges' })).toBeEnabled();

  // the curve, page 2, was shot sideways and came the right way up: it is so again after four quarter turns
  await page.getByRole('button', { name: 'Next page' }).click();
  await expect(page.getByText('Page 2 of 3')).toBeVisible();
  for (let i = 0; i < 4; i++) {
    await page.getByRole('button', { name: 'Rotate the page to the right' }).click();
    await expect(page.getByRole('button', { name: 'Undo the turn' })).toBeVisible();
  }

  // the knot comes first
  await page.getByRole('button', { name: 'Next page' }).click();
  await page.getByRole('button', { name: 'Order' }).click();
  await page.getByRole('button', { name: 'Earlier: move this page' }).click();
  await expect(page.getByText('Page 2 of 3')).toBeVisible();
  await page.getByRole('button', { name: 'Earlier: move this page' }).click();
  await expect(page.getByText('Page 1 of 3')).toBeVisible();

  await page.getByRole('link', { name: /^Bind/ }).click();
  await page.getByRole('textbox', { name: 'Title' }).fill('Tides and knots');
  await page.getByRole('textbox', { name: 'Title' }).press('Enter');
  await unfold(page, 'Paper');
  await page.getByRole('radio', { name: /^A4/ }).click();
  await page.getByRole('button', { name: 'Bind 3 pages' }).click();
  const download = page.getByRole('button', { name: /^Download the PDF/ });
  await expect(download).toBeVisible({ timeout: 60_000 });
  await expect(page.getByText(/PDF, 3 pages/)).toBeVisible();
  const [file] = await Promise.all([page.waitForEvent('download'), download.click()]);
  expect(file.suggestedFilename()).toBe('Tides and knots.pdf');
  const pdf = info.outputPath('bound.pdf');
  await file.saveAs(pdf);

  execFileSync('qpdf', ['--check', pdf]);
  const { pages, title } = await openWithPdfJs(pdf);
  expect(title).toBe('Tides and knots');
  const sizes = pages.map(({ view }) =>
    [view[2]! - view[0]!, view[3]! - view[1]!].map((points) => Math.round((points / 72) * 254) / 10),
  );
  expect(sizes).toEqual([
    [210, 297],
    [210, 297],
    [210, 297],
  ]);

  // the ink tells the order: the knot is half red and has no blue, the calculation is full of blue writing, the curve has blue axes only
  const [knot, calculation, curve] = await Promise.all(sheetsOf(pdf).map(countInks));
  expect(knot!.red).toBeGreaterThan(10 * calculation!.red);
  expect(knot!.blue).toBeLessThan(curve!.blue / 10);
  expect(calculation!.blue).toBeGreaterThan(3 * curve!.blue);
  await allSaved(page);
});

async function countInks(file: string): Promise<{ red: number; blue: number }> {
  const { data } = await sharp(file).raw().toBuffer({ resolveWithObject: true });
  let red = 0;
  let blue = 0;
  for (let i = 0; i < data.length; i += 3) {
    if (data[i]! - data[i + 2]! > 90) red++;
    if (data[i + 2]! - data[i]! > 90) blue++;
  }
  return { red, blue };
}

test('what is done survives a reload, and each change can be taken back', async ({ page }) => {
  await startHandIn(page);
  await addPhotos(page, [photoNamed('tides-1'), photoNamed('tides-2')]);
  await expect(tiles(page)).toHaveCount(2, { timeout: 60_000 });
  await tiles(page).nth(0).click();
  await page.getByRole('button', { name: 'Delete this page' }).click();
  await expect(tiles(page)).toHaveCount(1);
  await page.getByRole('button', { name: 'Undo deleting a page' }).click();
  await expect(tiles(page)).toHaveCount(2);

  await tiles(page).nth(0).click();
  await page.getByRole('button', { name: 'Light', exact: true }).click();
  await page.getByRole('radio', { name: /^As shot/ }).click();
  await page.getByRole('button', { name: 'Use on other pages' }).click();
  await page.getByRole('button', { name: 'Every page: use this light' }).click();
  await expect(page.getByRole('button', { name: /^Undo the light on/ })).toBeVisible();
  await page.reload();
  await expect(page.getByText('Page 1 of 2')).toBeVisible();
  await page.getByRole('button', { name: 'Next page' }).click();
  await page.getByRole('button', { name: 'Light', exact: true }).click();
  await expect(page.getByRole('radio', { name: /^As shot/ })).toBeChecked();
});

test('a bind can be stopped, and a change afterwards is pointed out', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('link', { name: /Set 4/ }).click();
  await expect(tiles(page)).toHaveCount(3);
  await page.getByRole('link', { name: /^Bind/ }).click();
  await page.getByRole('button', { name: 'Bind 3 pages' }).click();
  await page.getByRole('button', { name: 'Stop', exact: true }).click();
  await expect(page.getByRole('button', { name: 'Bind 3 pages' })).toBeEnabled();
  await page.getByRole('button', { name: 'Bind 3 pages' }).click();
  await expect(page.getByText('This file is up to date.')).toBeVisible({ timeout: 60_000 });
  await unfold(page, 'Paper');
  await page.getByRole('radio', { name: 'Letter' }).click();
  await expect(page.getByText(/Something changed since/)).toBeVisible();
  await expect(page.getByRole('button', { name: 'Bind 3 pages again' })).toBeVisible();
});
