import { readFileSync, writeFileSync } from 'node:fs';
import { expect, test } from '@playwright/test';
import { unzipSync, zipSync } from 'fflate';
import { photoNamed, practicePhotos } from './photos';
import { addPhotos, allSaved, startHandIn, tiles } from './steps';

test.describe('without a network', () => {
  test.use({ serviceWorkers: 'allow' });

  test('it opens, takes photos in, binds and saves; what was made goes up once, in order, when the line is back', async ({
    page,
    context,
  }) => {
    test.setTimeout(300_000);
    await startHandIn(page);
    await page.evaluate(() => navigator.serviceWorker.ready.then(() => undefined));
    await addPhotos(page, practicePhotos().slice(0, 1));
    await expect(tiles(page)).toHaveCount(1, { timeout: 60_000 });
    await context.setOffline(true);
    await addPhotos(page, practicePhotos().slice(1, 3));
    await expect(tiles(page)).toHaveCount(3, { timeout: 60_000 });
    await expect(page.getByText(/^No connection: .* safe on this device/)).toBeVisible({ timeout: 60_000 });
    // closed and opened again, all without a line
    const address = page.url();
    await page.reload();
    await expect(tiles(page)).toHaveCount(3, { timeout: 60_000 });
    await expect(page.getByText(/being looked at|Finding/)).toHaveCount(0, { timeout: 90_000 });
    await page.getByRole('link', { name: /^Bind/ }).click();
    await expect(page.getByRole('button', { name: 'Bind 3 pages' })).toBeEnabled({ timeout: 120_000 });
    await page.getByRole('button', { name: 'Bind 3 pages' }).click();
    await expect(page.getByText('This file is up to date.')).toBeVisible({ timeout: 120_000 });
    const download = page.waitForEvent('download');
    await page.getByRole('button', { name: /^Download the PDF/ }).click();
    expect(
      readFileSync(await (await download).path())
        .subarray(0, 5)
        .toString(),
    ).toBe('%PDF-');

    await context.setOffline(false);
    await allSaved(page);
    const id = /hand-in\/([^/]+)/.exec(address)![1]!;
    const { pages } = (await (await page.request.get(`/api/hand-ins/${id}`)).json()) as {
      pages: { fileName: string }[];
    };
    expect(pages.map(({ fileName }) => fileName)).toEqual(
      practicePhotos()
        .slice(0, 3)
        .map((file) => file.split('/').at(-1)),
    );
  });
});

test('hand-ins are taken along as a zip and come back whole; a damaged zip changes nothing', async ({
  page,
  browser,
}) => {
  test.setTimeout(240_000);
  await startHandIn(page);
  await addPhotos(page, [photoNamed('ropework-1')]);
  await expect(tiles(page)).toHaveCount(1, { timeout: 60_000 });
  await allSaved(page);
  await tiles(page).first().click();
  await page.getByRole('button', { name: 'Rotate the page to the right' }).click();
  await allSaved(page);
  await page.goto('/settings');
  const download = page.waitForEvent('download', { timeout: 60_000 });
  await page.getByRole('button', { name: 'Everything as one zip' }).click();
  const zip = readFileSync(await (await download).path());
  const entries = unzipSync(zip);
  const index = JSON.parse(new TextDecoder().decode(entries['fotoplan.json'])) as {
    handIns: { title: string; pages: { originalId: string; recipe: { quarterTurns: number } }[] }[];
  };
  expect(index.handIns.length).toBeGreaterThan(1);
  for (const { pages } of index.handIns)
    for (const { originalId } of pages)
      expect(Buffer.from(entries[`originals/${originalId}`]!).length).toBeGreaterThan(1000);

  // another person, another browser
  const other = await (await browser.newContext({ viewport: { width: 390, height: 844 } })).newPage();
  await other.goto('/settings');
  const bring = async (file: string): Promise<void> => {
    const chooser = other.waitForEvent('filechooser');
    await other.getByRole('button', { name: 'Import a zip' }).click();
    await (await chooser).setFiles(file);
  };
  const damaged = {
    ...entries,
    [Object.keys(entries).find((name) => name.startsWith('originals/'))!]: new Uint8Array([1, 2, 3]),
  };
  writeFileSync('test-results/damaged.zip', zipSync(damaged, { level: 0 }));
  await bring('test-results/damaged.zip');
  await expect(other.getByText(/in this zip is damaged/)).toBeVisible({ timeout: 30_000 });
  writeFileSync('test-results/words.zip', 'no zip at all');
  await bring('test-results/words.zip');
  await expect(
    other.getByText(/zip/).filter({ hasText: /was not exported from|cannot be opened|can be opened/ }),
  ).toBeVisible();
  writeFileSync('test-results/whole.zip', zip);
  await bring('test-results/whole.zip');
  await expect(other.getByText(`${index.handIns.length} hand-ins are on the desk.`)).toBeVisible({ timeout: 60_000 });
  await other.goto('/');
  await allSaved(other);
  await other.getByRole('link', { name: /^Hand-in of/ }).click();
  await expect(tiles(other).first()).toHaveAccessibleName(/turned right/);
  await other.context().close();
});

test('two tabs on one hand-in see each other’s changes', async ({ page, context }) => {
  await startHandIn(page);
  await addPhotos(page, [photoNamed('botany-1')]);
  await expect(tiles(page)).toHaveCount(1, { timeout: 60_000 });
  await allSaved(page);
  const second = await context.newPage();
  await second.goto(page.url());
  await expect(tiles(second)).toHaveCount(1);
  await addPhotos(second, [photoNamed('ropework-1')]);
  await expect(tiles(second)).toHaveCount(2, { timeout: 60_000 });
  await expect(tiles(page)).toHaveCount(2);
  await addPhotos(page, [photoNamed('tides-1')]);
  await expect(tiles(second)).toHaveCount(3, { timeout: 60_000 });
  await allSaved(page);
});
