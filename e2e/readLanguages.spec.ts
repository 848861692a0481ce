import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { expect, test, type Page } from '@playwright/test';
import { addPhotos, startHandIn, tiles, unfold } from './steps';

const FONT = readFileSync(
  'node_modules/@expo-google-fonts/noto-sans-arabic/400Regular/NotoSansArabic_400Regular.ttf',
).toString('base64');

const PRINT = {
  Deutsch: {
    direction: 'ltr',
    lines: ['Die Flut erreicht den Hafen', 'müde Vögel über großen Wellen', 'Messung Übersicht der Höhen'],
  },
  العربية: { direction: 'rtl', lines: ['يصل المد إلى الميناء', 'قياس ارتفاع الماء', 'كتاب البحر الكبير'] },
} as const;

/** A photo-like picture of a printed page, drawn by the browser itself. */
async function printed(page: Page, direction: string, lines: readonly string[]): Promise<Buffer> {
  const sheet = await page.context().newPage();
  await sheet.setViewportSize({ width: 1240, height: 1754 });
  await sheet.setContent(`<style>
    @font-face { font-family: print; src: url(data:font/ttf;base64,${FONT}); }
    body { margin: 0; background: #3a3330; } main { position: absolute; inset: 70px; padding: 120px; background: #fff; color: #111;
    font: 54px/2 "DejaVu Sans", print, sans-serif; direction: ${direction}; }</style>
    <main>${lines.map((line) => `<p>${line}</p>`).join('')}</main>`);
  await sheet.evaluate(() => document.fonts.ready);
  const picture = await sheet.screenshot({ type: 'jpeg', quality: 92 });
  await sheet.close();
  return picture;
}

const plain = (text: string): string[] =>
  text
    .normalize('NFKC')
    .replace(/[\p{M}\p{Cf}]/gu, '')
    .split(/[^\p{L}]+/u)
    .filter((word) => word !== '');

for (const [language, { direction, lines }] of Object.entries(PRINT))
  test(`print in ${language} is found in the file, in reading order`, async ({ page }) => {
    test.setTimeout(300_000);
    await startHandIn(page);
    const picture = await printed(page, direction, lines);
    await addPhotos(page, [{ name: 'print.jpg', mimeType: 'image/jpeg', buffer: picture }]);
    await expect(tiles(page)).toHaveCount(1, { timeout: 60_000 });
    await page.getByRole('link', { name: /^Bind/ }).click();
    await unfold(page, 'In the file');
    await page.getByRole('switch', { name: 'Words that can be searched' }).click();
    await page.getByRole('radio', { name: language }).click();
    await page.getByRole('button', { name: /^Bind 1 page/ }).click();
    await expect(page.getByText('This file is up to date.')).toBeVisible({ timeout: 180_000 });
    const download = page.waitForEvent('download');
    await page
      .getByRole('button', { name: /^Download the PDF/ })
      .first()
      .click();
    const file = await (await download).path();
    const read = plain(execFileSync('pdftotext', [file, '-']).toString());
    const truth = lines.flatMap(plain);
    const found = read.filter((word) => truth.includes(word));
    expect(found.length / truth.length).toBeGreaterThanOrEqual(0.8);
    // what was found stands in the order in which it is spoken
    const places = found.map((word) => truth.indexOf(word));
    expect(places).toEqual(places.toSorted((a, b) => a - b));
  });
