import { expect, test, type Page } from '@playwright/test';
import sharp from 'sharp';
import { sheetsOf } from './sheets';
import { addPhotos, startHandIn, tiles } from './steps';

/** Pages that tell themselves apart: as many black bars as their number, and the number in words a machine can read. */
async function numbered(number: number, printed = number): Promise<{ name: string; mimeType: string; buffer: Buffer }> {
  const bars = Array.from(
    { length: number },
    (_, i) => `<rect x="240" y="${330 + i * 90}" width="660" height="50" fill="#111"/>`,
  ).join('');
  const words = `<text x="500" y="1335" font-family="Source Serif 4" font-size="34">Page ${printed}</text>`;
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="1140" height="1512"><rect width="1140" height="1512" fill="#4b3a2c"/><rect x="120" y="120" width="900" height="1272" fill="#f6f4ef"/>${bars}${words}</svg>`;
  return {
    name: `scan-${number}.jpg`,
    mimeType: 'image/jpeg',
    buffer: await sharp(Buffer.from(svg)).jpeg({ quality: 90 }).toBuffer(),
  };
}

async function startWith(page: Page, files: Awaited<ReturnType<typeof numbered>>[]): Promise<void> {
  await startHandIn(page);
  await addPhotos(page, files);
  await expect(tiles(page)).toHaveCount(files.length, { timeout: 60_000 });
}

/** How many bars each page of the bound file shows, in its order. */
async function boundOrder(page: Page, count: number): Promise<number[]> {
  await page.getByRole('link', { name: /^Bind/ }).click();
  await page.getByRole('button', { name: count === 1 ? 'Bind 1 page' : `Bind ${count} pages` }).click();
  await expect(page.getByText('This file is up to date.')).toBeVisible({ timeout: 90_000 });
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: /^Download the PDF/ }).click();
  const bars: number[] = [];
  for (const sheet of sheetsOf(await (await download).path(), 60)) {
    const { data, info } = await sharp(sheet).greyscale().raw().toBuffer({ resolveWithObject: true });
    let runs = 0;
    // bars lie along rows on a page that stands, along columns on one that was turned
    const upright = info.height > info.width;
    const along = upright ? info.height : info.width;
    for (let i = 0, dark = false; i < along * 0.93; i++) {
      const value = upright
        ? data[i * info.width + Math.round(info.width * 0.4)]!
        : data[Math.round(info.height * 0.4) * info.width + i]!;
      if (value < 100 && !dark) runs++;
      dark = value < 100;
    }
    bars.push(runs);
  }
  return bars;
}

test('pages are chosen, turned, left out and moved together; eight steps are undone after a reload', async ({
  page,
}) => {
  test.setTimeout(240_000);
  await startWith(page, await Promise.all([1, 2, 3, 4].map((n) => numbered(n))));
  await page.getByRole('button', { name: 'Choose pages' }).click();
  const turn = page.getByRole('button', { name: /to the right$/ });
  await tiles(page).nth(0).click();
  await tiles(page).nth(1).click();
  await turn.click();
  await expect(page.getByRole('button', { name: 'Undo turning 2 pages' })).toBeVisible();
  await turn.click();
  await turn.click();
  await turn.click();
  // now both stand as they did; the two go behind the last
  await page.getByRole('button', { name: 'Move pages' }).click();
  await page.getByLabel(/^Place to move to/).fill('9');
  await expect(page.getByText('Give a place from 1 to 4.')).toBeVisible();
  await page.getByLabel(/^Place to move to/).fill('3');
  await page.getByRole('button', { name: 'Move there' }).click();
  await expect(page.getByRole('button', { name: 'Undo moving 2 pages' })).toBeVisible();
  await page.getByRole('button', { name: 'Choose all' }).click();
  await page.getByRole('button', { name: 'Choose none' }).click();
  await tiles(page).nth(0).click();
  await page.getByRole('button', { name: 'Leave out 1 page' }).click();
  await expect(page.getByRole('button', { name: /^Page 1 of 4, left out/ })).toBeVisible();
  await page.getByRole('button', { name: 'Done choosing' }).click();
  expect(await boundOrder(page, 3)).toEqual([4, 1, 2]);

  await page.getByRole('link', { name: /^Pages/ }).click();
  await page.getByRole('button', { name: 'Choose pages' }).click();
  await tiles(page).nth(3).click();
  await page.getByRole('button', { name: 'Copy 1 page' }).click();
  await expect(tiles(page)).toHaveCount(5);
  await page.getByRole('button', { name: 'Move pages' }).click();
  await page.getByRole('button', { name: 'Reverse the order of all pages' }).click();
  await expect(page.getByRole('button', { name: 'Undo the reverse order' })).toBeVisible();
  await page.reload();
  for (const label of [
    'the reverse order',
    'copying a page',
    'leaving out a page',
    'moving 2 pages',
    'turning 2 pages',
    'turning 2 pages',
    'turning 2 pages',
    'turning 2 pages',
  ]) {
    await page.getByRole('button', { name: `Undo ${label}` }).click();
  }
  await expect(page.getByRole('button', { name: 'Undo adding pages' })).toBeVisible();
  await expect(tiles(page)).toHaveCount(4);
  await page.getByRole('button', { name: 'Redo turning 2 pages' }).click();
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('button', { name: 'Redo turning 2 pages' })).toBeVisible();
  expect(await boundOrder(page, 4)).toEqual([1, 2, 3, 4]);
});

test('a page is moved by touch, by the mouse and with the keys, and one is put in the middle', async ({
  page,
  context,
}) => {
  test.setTimeout(240_000);
  await startWith(page, await Promise.all([1, 2, 3].map((n) => numbered(n))));
  const centre = async (n: number) => {
    const box = (await tiles(page).nth(n).boundingBox())!;
    return { x: box.x + box.width / 2, y: box.y + box.height / 3 };
  };
  // with the mouse: the first to the second place
  const [from, to] = [await centre(0), await centre(1)];
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move(from.x + 20, from.y, { steps: 4 });
  await page.mouse.move(to.x, to.y, { steps: 8 });
  await page.mouse.up();
  await expect(page.getByRole('button', { name: 'Undo moving a page' })).toBeVisible();
  // by touch: held, then dragged back
  const touch = await context.newCDPSession(page);
  const [start, end] = [await centre(1), await centre(0)];
  const send = (type: 'touchStart' | 'touchMove' | 'touchEnd', at: { x: number; y: number } | null) =>
    touch.send('Input.dispatchTouchEvent', { type, touchPoints: at === null ? [] : [at] });
  await send('touchStart', start);
  await page.waitForTimeout(500);
  for (let i = 1; i <= 10; i++)
    await send('touchMove', { x: start.x + ((end.x - start.x) * i) / 10, y: start.y + ((end.y - start.y) * i) / 10 });
  await page.waitForTimeout(200);
  await send('touchEnd', null);
  await expect(page.getByRole('button', { name: 'Undo moving a page' })).toBeVisible();
  // with the keys: the first goes one on, which is said aloud
  const handle = page.getByRole('button', { name: 'Move page 1 of 3' });
  await handle.focus();
  await page.keyboard.press('Space');
  await expect(page.getByText(/^(Lifted page 1 of 3|Over place 1 of 3)/)).toBeAttached();
  await page.waitForTimeout(150);
  await page.keyboard.press('ArrowRight');
  await expect(page.getByText('Over place 2 of 3.')).toBeAttached();
  await page.keyboard.press('Space');
  await expect(page.getByText(/^Laid down at place 2/)).toBeAttached();
  // mouse and touch cancel out; the keys are left: 2 1 3
  expect(await boundOrder(page, 3)).toEqual([2, 1, 3]);
  await page.getByRole('link', { name: /^Pages/ }).click();
  await tiles(page).nth(0).click();
  await page.getByRole('button', { name: 'Order', exact: true }).click();
  const chooser = page.waitForEvent('filechooser');
  await page.getByRole('button', { name: 'Add photos behind this page' }).click();
  await (await chooser).setFiles([await numbered(5)]);
  await expect(page.getByText('Page 1 of 4')).toBeVisible({ timeout: 60_000 });
  expect(await boundOrder(page, 4)).toEqual([2, 5, 1, 3]);
});

test('the numbers on the pages suggest their order; a page that lies there twice is pointed out', async ({ page }) => {
  test.setTimeout(240_000);
  await startWith(page, [await numbered(2), await numbered(1), await numbered(3)]);
  // added by name they stand 1 2 3: laid the other way round they ask for their order
  await page.getByRole('button', { name: 'Choose pages' }).click();
  await page.getByRole('button', { name: 'Move pages' }).click();
  await page.getByRole('button', { name: 'Reverse the order of all pages' }).click();
  await page.getByRole('button', { name: 'Done choosing' }).click();
  await page.getByRole('button', { name: 'Put in order' }).click({ timeout: 120_000 });
  await expect(page.getByRole('button', { name: 'Undo the suggested order' })).toBeVisible();
  await page.getByRole('button', { name: 'Choose pages' }).click();
  await tiles(page).nth(1).click();
  await page.getByRole('button', { name: 'Copy 1 page' }).click();
  await page.getByRole('button', { name: 'Done choosing' }).click();
  await expect(page.getByText('Pages 2 and 3 look the same.')).toBeVisible({ timeout: 60_000 });
  await page.getByRole('button', { name: 'Leave 3 out' }).click();
  await expect(page.getByTestId('order-advice')).toBeHidden();
  expect(await boundOrder(page, 3)).toEqual([1, 2, 3]);
});

test('pages are read through with keys and wheel, ticked off, and left for a tool and back', async ({ page }) => {
  test.setTimeout(180_000);
  await startWith(page, await Promise.all([1, 2].map((n) => numbered(n))));
  await page.getByRole('button', { name: 'Read the pages through' }).click();
  await expect(page.getByText('1 of 2')).toBeVisible();
  await expect(page.getByRole('img', { name: 'Page 1 as it will be read' })).toBeVisible({ timeout: 60_000 });
  await page.keyboard.press('ArrowRight');
  await expect(page.getByText('2 of 2')).toBeVisible();
  await page.getByRole('button', { name: 'Previous page' }).click();
  const seen = (await page.getByRole('img', { name: 'Page 1 as it will be read' }).boundingBox())!;
  await page.mouse.move(seen.x + seen.width / 2, seen.y + seen.height / 2);
  for (let i = 0; i < 12; i++) await page.mouse.wheel(0, -100);
  await expect(page.getByText('400 %')).toBeVisible();
  await expect(page.getByTestId('full-detail')).toBeVisible({ timeout: 60_000 });
  await page.getByRole('button', { name: /^(Change|Fix) this page/ }).click();
  await page.getByRole('button', { name: 'Back to reading' }).click();
  await expect(page.getByText('1 of 2')).toBeVisible();
  await page.getByRole('button', { name: 'Seen, next page' }).click();
  await expect(page.getByText('1 page left')).toBeVisible();
  await page.getByRole('button', { name: 'Seen, bind 2 pages' }).click();
  await expect(page).toHaveURL(/\/bind$/);
});
