import { readFileSync } from 'node:fs';
import { execFileSync } from 'node:child_process';
import { PDFDocument } from '@cantoo/pdf-lib';
import { expect, test } from '@playwright/test';
import sharp, { type Sharp } from 'sharp';
import { photoNamed } from './photos';
import { addPhotos, allSaved, startHandIn, tiles } from './steps';

const file = (name: string, buffer: Buffer, mimeType = 'image/jpeg') => ({ name, mimeType, buffer });

test('bad files are named with the way on, and the good ones go through in order', async ({ page }) => {
  await startHandIn(page);
  const good = readFileSync(photoNamed('tides-1'));
  const blank = (width: number, height: number): Sharp =>
    sharp({ create: { width, height, channels: 3, background: '#ccd' } });
  await addPhotos(page, [
    file('empty.jpg', Buffer.alloc(0)),
    file('letter.jpg', Buffer.from('Dear reader, this is text.')),
    file('good one.jpg', good),
    file('half.jpg', good.subarray(0, good.length >> 1)),
    file('stub.jpg', good.subarray(0, 60)),
    file('huge.png', await blank(10_000, 6000).png().toBuffer(), 'image/png'),
    file('dot.png', await blank(1, 1).png().toBuffer(), 'image/png'),
    file('notes.pdf', Buffer.from('%PDF-1.7\n%%EOF'), 'application/pdf'),
    file('good two.jpg', readFileSync(photoNamed('botany-1'))),
  ]);
  await expect(tiles(page)).toHaveCount(3, { timeout: 90_000 });
  // a photo that breaks off is taken as far as it goes
  await expect(tiles(page).filter({ hasText: 'part missing' })).toHaveCount(1, { timeout: 60_000 });
  const sentences = [
    '“empty.jpg” is empty: 0 bytes arrived.',
    '“letter.jpg” is not a photo.',
    '“stub.jpg” breaks off before its end.',
    '“huge.png” has 60 megapixels; up to 50 work.',
    '“dot.png” is only 1 × 1 pixels',
    '“notes.pdf” is damaged or empty.',
  ];
  for (const sentence of sentences) await expect(page.getByRole('alert').filter({ hasText: sentence })).toBeVisible();
  await page.getByRole('button', { name: 'Close the note about empty.jpg' }).click();
  await expect(page.getByText('“empty.jpg” is empty')).toBeHidden();
  await allSaved(page);
});

/** A TIFF of several pages, as a scanner makes it. */
async function scanOf(names: readonly string[]): Promise<Buffer> {
  const [width, height] = [900, 1200];
  const pages = await Promise.all(
    names.map((name) =>
      sharp(photoNamed(name))
        .autoOrient()
        .resize(width, height, { fit: 'fill' })
        .toColourspace('srgb')
        .raw()
        .toBuffer(),
    ),
  );
  return sharp(Buffer.concat(pages), {
    raw: { width, height: height * names.length, channels: 3, pageHeight: height },
  })
    .tiff({ compression: 'lzw' })
    .toBuffer();
}

test('HEIC, TIFF, AVIF, PDF and a wrong file in one go: the good ones arrive in order, the PDF’s text stays text', async ({
  page,
}, info) => {
  await startHandIn(page);
  const scan = await scanOf(['botany-1', 'tides-1']);
  const handout = await PDFDocument.create();
  handout.addPage([595, 842]).drawText('Predicted heights, Gannet Haven', { x: 60, y: 760 });
  handout.addPage([842, 595]).drawText('Second sheet', { x: 60, y: 500 });
  await addPhotos(page, [
    { name: 'photo.heic', mimeType: 'image/heic', buffer: readFileSync('e2e/files/page.heic') },
    {
      name: 'scan.tif',
      mimeType: 'image/tiff',
      buffer: scan,
    },
    { name: 'photo.jxl', mimeType: 'image/jxl', buffer: readFileSync('e2e/files/page.jxl') },
    {
      name: 'small.avif',
      mimeType: 'image/avif',
      buffer: await sharp(photoNamed('botany-1')).autoOrient().resize(600).avif({ effort: 0 }).toBuffer(),
    },
    file('wrong.jpg', Buffer.from('this is no photo')),
    file('half.tif', scan.subarray(0, scan.length >> 1), 'image/tiff'),
    { name: 'handout.pdf', mimeType: 'application/pdf', buffer: Buffer.from(await handout.save()) },
    file('last.jpg', readFileSync(photoNamed('tides-1'))),
  ]);
  await expect(tiles(page)).toHaveCount(8, { timeout: 90_000 });
  await expect(page.getByText(/photos? to go/)).toBeHidden({ timeout: 60_000 });
  await expect(page.getByRole('alert').filter({ hasText: '“wrong.jpg” is not a photo.' })).toBeVisible();
  await expect(page.getByRole('alert').filter({ hasText: '“half.tif” breaks off before its end.' })).toBeVisible();
  for (const tile of await tiles(page).all())
    await expect
      .poll(async () => (await tile.locator('img').boundingBox())?.height ?? 0, { timeout: 60_000 })
      .toBeGreaterThan(60);
  await allSaved(page);
  const handIn = (await (await page.request.get(`/api/hand-ins/${page.url().split('/').at(-1)}`)).json()) as {
    pages: { fileName: string; pdfPage: number | null }[];
  };
  expect(handIn.pages.map(({ fileName, pdfPage }) => [fileName, pdfPage])).toEqual([
    ['photo.heic', null],
    ['scan-1.tif', null],
    ['scan-2.tif', null],
    ['photo.jxl', null],
    ['small.avif', null],
    ['handout.pdf', 0],
    ['handout.pdf', 1],
    ['last.jpg', null],
  ]);

  await page.getByRole('link', { name: /^Bind/ }).click();
  await page.getByRole('button', { name: 'Bind 8 pages' }).click();
  const download = page.getByRole('button', { name: /^Download the PDF/ });
  await expect(download).toBeVisible({ timeout: 90_000 });
  const [bound] = await Promise.all([page.waitForEvent('download'), download.click()]);
  const pdf = info.outputPath('bound.pdf');
  await bound.saveAs(pdf);
  execFileSync('qpdf', ['--check', pdf]);
  expect(execFileSync('pdftotext', ['-f', '6', '-l', '6', pdf, '-']).toString()).toContain(
    'Predicted heights, Gannet Haven',
  );
  expect(execFileSync('pdfimages', ['-list', '-f', '6', '-l', '7', pdf]).toString().trim().split('\n')).toHaveLength(2);
});

test('the same photo twice is pointed out, and a photo may be dropped or pasted', async ({ page }) => {
  await startHandIn(page);
  await addPhotos(page, [photoNamed('tides-1')]);
  await expect(tiles(page)).toHaveCount(1, { timeout: 60_000 });
  await addPhotos(page, [photoNamed('tides-1')]);
  const note = page.getByRole('alert').filter({ hasText: 'is page 1 already' });
  await expect(note).toBeVisible({ timeout: 60_000 });
  await expect(tiles(page)).toHaveCount(1);
  await note.getByRole('button', { name: /^Add it again/ }).click();
  await expect(tiles(page)).toHaveCount(2, { timeout: 60_000 });

  const bytes = [...readFileSync('e2e/files/page.heic')];
  for (const kind of ['drop', 'paste'] as const) {
    await page.evaluate(
      ([data, type]) => {
        const transfer = new DataTransfer();
        transfer.items.add(new File([new Uint8Array(data)], `${type}.heic`, { type: 'image/heic' }));
        window.dispatchEvent(
          type === 'drop'
            ? new DragEvent('drop', { dataTransfer: transfer, bubbles: true })
            : new ClipboardEvent('paste', { clipboardData: transfer, bubbles: true }),
        );
      },
      [bytes, kind] as const,
    );
    await expect(tiles(page)).toHaveCount(3, { timeout: 60_000 });
  }
  await expect(page.getByRole('alert').filter({ hasText: '“paste.heic” is page 3 already' })).toBeVisible({
    timeout: 60_000,
  });
});

test('two hundred photos at once all arrive', async ({ page }) => {
  test.setTimeout(240_000);
  await startHandIn(page);
  const small = await sharp(photoNamed('tides-1')).autoOrient().resize(240).jpeg().toBuffer();
  await addPhotos(
    page,
    await Promise.all(
      Array.from({ length: 200 }, async (_, i) =>
        file(
          `${i}.jpg`,
          await sharp(small)
            .extend({ right: 1 + (i % 20), bottom: 1 + Math.floor(i / 20), background: '#432' })
            .jpeg()
            .toBuffer(),
        ),
      ),
    ),
  );
  await expect(page.getByText(/photos? to go/)).toBeVisible();
  await expect(page.getByText(/photos? to go/)).toBeHidden({ timeout: 200_000 });
  await expect(page.getByRole('button', { name: /^Page 1 of 200/ })).toBeVisible();
  await expect(page.getByRole('alert')).toHaveCount(0);
});

test('with the server gone while photos go up nothing is lost, and all of it goes up once when it is back', async ({
  page,
}) => {
  await startHandIn(page);
  await allSaved(page);
  await page.route('**/api/**', (route) => route.abort('connectionrefused'));
  await addPhotos(page, [photoNamed('tides-1'), photoNamed('tides-2')]);
  await expect(tiles(page)).toHaveCount(2, { timeout: 60_000 });
  await expect(page.getByText(/No connection: \d+ changes? safe on this device/)).toBeVisible();
  const address = page.url();
  const handInId = address.split('/').at(-1)!;
  await page.reload();
  await expect(tiles(page)).toHaveCount(2);
  await page.unroute('**/api/**');
  await page.evaluate(() => window.dispatchEvent(new Event('online')));
  await allSaved(page);
  const kept = (await (await page.request.get(`/api/hand-ins/${handInId}`)).json()) as {
    pages: { fileName: string }[];
  };
  expect(kept.pages.map((p) => p.fileName)).toEqual([
    expect.stringContaining('tides-1'),
    expect.stringContaining('tides-2'),
  ]);
});
