import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { unzipSync } from 'fflate';
import { expect, test, type Page } from '@playwright/test';
import sharp from 'sharp';
import { photoNamed } from './photos';
import { sheetsOf } from './sheets';
import { addPhotos, startHandIn, tiles, unfold } from './steps';

async function bind(page: Page, name: RegExp = /^Bind \d+ pages?/): Promise<void> {
  await page.getByRole('button', { name }).click();
  await expect(page.getByText('This file is up to date.')).toBeVisible({ timeout: 120_000 });
}

async function downloaded(page: Page, button: RegExp): Promise<{ path: string; name: string }> {
  const waiting = page.waitForEvent('download', { timeout: 60_000 });
  await page.getByRole('button', { name: button }).click();
  const download = await waiting;
  return { path: await download.path(), name: download.suggestedFilename() };
}

test('a limit is kept exactly, the file is named by a convention, seen before it leaves, and its words are found', async ({
  page,
}) => {
  await startHandIn(page);
  await addPhotos(page, [photoNamed('botany-1'), photoNamed('ropework-1')]);
  await expect(tiles(page)).toHaveCount(2, { timeout: 60_000 });
  await page.getByRole('link', { name: /^Bind/ }).click();
  // its heading is white print on a dark box, below the college's name
  await page.getByRole('button', { name: 'Take it from page 1' }).click({ timeout: 60_000 });
  await expect(page.getByRole('button', { name: 'Use “Seashore Botany: shore log sheet”' })).toBeVisible({
    timeout: 60_000,
  });

  await unfold(page, 'Name of the file');
  await page.getByRole('radio', { name: 'Use a pattern' }).click();
  await page.getByRole('textbox', { name: 'Family name' }).fill('Tolvanen-Adeyemi');
  await page.getByRole('textbox', { name: 'Student number' }).fill('SP-20417');
  await page.getByRole('textbox', { name: 'Title' }).fill('Shore log: quadrat');
  await page.getByRole('textbox', { name: 'Title' }).press('Enter');
  await page.getByRole('button', { name: 'Number earlier' }).click();
  await expect(page.getByTestId('file-name')).toHaveText('SP-20417_Tolvanen-Adeyemi_Shore-log-quadrat.pdf');

  await unfold(page, 'In the file');
  await page.getByRole('switch', { name: 'Words that can be searched' }).click();
  await unfold(page, 'Limit');
  await page.getByRole('textbox', { name: 'Another limit in MB' }).fill('0.024');
  await page.getByRole('textbox', { name: 'Another limit in MB' }).press('Enter');
  await page.getByRole('button', { name: 'Bind 2 pages' }).click();
  // far too little for both pages: numbered parts are the last way
  await expect(page.getByText(/do not fit into 24 KB/)).toBeVisible({ timeout: 120_000 });
  await expect(page.getByRole('button', { name: 'Bind 2 numbered parts' })).toBeVisible();
  // or another finish, if the person agrees, who sees a page both ways
  await expect(page.getByRole('img', { name: 'Page 1: as it is' })).toBeVisible({ timeout: 30_000 });
  await expect(page.getByRole('img', { name: 'Page 1: in Press' })).toBeVisible({ timeout: 30_000 });
  await page.getByRole('button', { name: 'Use Press for 2 pages' }).click();
  await expect(page.getByText('This file is up to date.')).toBeVisible({ timeout: 120_000 });
  await page.getByRole('button', { name: 'Undo' }).click();
  await page.getByRole('textbox', { name: 'Another limit in MB' }).fill('0.045');
  await page.getByRole('textbox', { name: 'Another limit in MB' }).press('Enter');
  await bind(page);
  await expect(page.getByText(/^To fit:/).first()).toBeVisible();

  await page.getByRole('button', { name: 'See the file' }).click();
  await expect(page.getByRole('img', { name: 'Page 1 of 2 in the file' })).toBeVisible({ timeout: 30_000 });
  await page.getByRole('button', { name: 'Close' }).click();

  const { path, name } = await downloaded(page, /^Download the PDF/);
  expect(name).toBe('SP-20417_Tolvanen-Adeyemi_Shore-log-quadrat.pdf');
  expect(readFileSync(path).length).toBeLessThanOrEqual(45_000);
  execFileSync('qpdf', ['--check', path]);
  const text = execFileSync('pdftotext', [path, '-']).toString();
  // the head of the sheet is white print on a dark box
  expect(text).toContain('Seashore Botany: shore log sheet');
  // which of the printed words are read at so low a limit is chance; that most of the table is, is not
  const printed = ['periwinkle', 'limpet', 'barnacle', 'whelk', 'wrack', 'anemone', 'crab', 'individual'];
  expect(printed.filter((word) => text.includes(word)).length).toBeGreaterThanOrEqual(4);

  // the same words are found on the pages while reading
  await page.getByRole('link', { name: /^Pages/ }).click();
  await page.getByRole('button', { name: 'Read the pages through' }).click();
  await page.getByRole('button', { name: 'Find words on the pages' }).click();
  await page.getByRole('textbox', { name: 'Find words on the pages' }).fill('individual');
  await expect(page.getByText('1 on 1 page')).toBeVisible({ timeout: 60_000 });
  await expect(page.getByTestId('found-word')).toBeVisible();
});

test('what is written on a page is in the file, and one switch hides it', async ({ page }) => {
  await startHandIn(page);
  await addPhotos(page, [photoNamed('ropework-1')]);
  await expect(tiles(page)).toHaveCount(1, { timeout: 60_000 });
  await tiles(page).first().click();
  await page.getByRole('button', { name: 'Mark: write on the page' }).click();
  const sheet = page.getByRole('application');
  await expect(sheet).toBeVisible({ timeout: 30_000 });

  await page.getByRole('button', { name: 'Pen', exact: true }).click();
  await page.getByRole('radio', { name: 'Green' }).click();
  await page.getByRole('slider', { name: 'Thickness' }).fill('1');
  const box = (await sheet.boundingBox())!;
  const at = (x: number, y: number): [number, number] => [box.x + x * box.width, box.y + y * box.height];
  const tap = async (x: number, y: number): Promise<void> => {
    // a click on the sheet itself waits until it stands still
    const { width, height } = (await sheet.boundingBox())!;
    await sheet.click({ position: { x: x * width, y: y * height } });
  };
  await page.mouse.move(...at(0.3, 0.9));
  await page.mouse.down();
  await page.mouse.move(...at(0.8, 0.9), { steps: 12 });
  await page.mouse.up();
  await page.getByRole('button', { name: 'Note in text' }).click();
  await tap(0.2, 0.05);
  await page.getByRole('textbox', { name: 'The note' }).fill('second attempt');
  await page.getByRole('button', { name: 'Put it there' }).click();
  // drawn once, placed where it is tapped
  await page.getByRole('button', { name: 'Signature', exact: true }).click();
  const pad = (await page.getByTestId('signature-pad').boundingBox())!;
  await page.mouse.move(pad.x + 30, pad.y + 30);
  await page.mouse.down();
  await page.mouse.move(pad.x + pad.width - 40, pad.y + pad.height - 30, { steps: 10 });
  await page.mouse.up();
  await page.getByRole('button', { name: 'Keep it' }).click();
  await tap(0.75, 0.95);
  await page.getByRole('button', { name: 'Undo the last mark' }).click();
  await page.getByRole('button', { name: 'Redo the mark' }).click();
  await page.getByRole('button', { name: 'Done', exact: true }).click();
  await expect(page.getByTestId('page-marks')).toBeVisible();

  await page.getByRole('link', { name: /^Bind/ }).click();
  await bind(page);
  const shown = (await downloaded(page, /^Download the PDF/)).path;
  expect(execFileSync('pdftotext', [shown, '-']).toString()).toContain('second attempt');
  expect(await greenAt(sheetsOf(shown)[0]!, 0.5, 0.9)).toBe(true);

  await unfold(page, 'In the file');
  await page.getByRole('switch', { name: 'Marks' }).click();
  await bind(page);
  const hidden = (await downloaded(page, /^Download the PDF/)).path;
  expect(execFileSync('pdftotext', [hidden, '-']).toString()).not.toContain('second attempt');
  expect(await greenAt(sheetsOf(hidden)[0]!, 0.5, 0.9)).toBe(false);

  await unfold(page, 'Pages as pictures');
  const zip = await downloaded(page, /^Pages as JPEG/);
  const files = unzipSync(new Uint8Array(readFileSync(zip.path)));
  expect(Object.keys(files)).toEqual(['page-01.jpg']);
  expect((await sharp(files['page-01.jpg']).metadata()).height).toBeGreaterThan(1500);
});

/** Green ink within a few pixels of a place, in shares of the sheet. */
async function greenAt(file: string, x: number, y: number): Promise<boolean> {
  const { data, info } = await sharp(file).removeAlpha().raw().toBuffer({ resolveWithObject: true });
  for (let v = Math.round(y * info.height) - 12; v < Math.round(y * info.height) + 12; v++) {
    const i = (v * info.width + Math.round(x * info.width)) * 3;
    if (data[i + 1]! - data[i]! > 30 && data[i + 1]! - data[i + 2]! > 20) return true;
  }
  return false;
}
