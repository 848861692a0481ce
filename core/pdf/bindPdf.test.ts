import { PDFDocument } from '@cantoo/pdf-lib';
import sharp from 'sharp';
import { bindPdf, type PagePicture } from './bindPdf';
import { longSideAtDpi, placeOnSheet, sheetFor } from './paperSize';

const picture = async (width: number, height: number): Promise<PagePicture> => ({
  jpeg: await sharp({ create: { width, height, channels: 3, background: '#fff' } }).jpeg().toBuffer(),
  width,
  height,
});
async function* each(pages: readonly PagePicture[]): AsyncGenerator<PagePicture> {
  for (const page of pages) yield await Promise.resolve(page);
}
const OPTIONS = { title: 'Set 4', paper: 'auto', nowMs: 1_700_000_000_000 } as const;

describe('bindPdf', () => {
  it('makes one sheet a page, in order, at its true size, turned as the page is', async () => {
    const bytes = await bindPdf(each([await picture(1000, 1414), await picture(1294, 1000), await picture(500, 500)]), OPTIONS);
    const pdf = await PDFDocument.load(bytes, { updateMetadata: false });
    const millimetres = pdf.getPages().map((page) => [page.getWidth(), page.getHeight()].map((points) => (points / 72) * 25.4));
    const expected = [[210, 297], [279.4, 215.9], [297, 297]];
    millimetres.forEach((size, i) => size.forEach((mm, k) => expect(Math.abs(mm - expected[i]![k]!)).toBeLessThan(0.1)));
    expect(pdf.getTitle()).toBe('Set 4');
    expect(pdf.getCreationDate()?.getTime()).toBe(OPTIONS.nowMs);
  });

  it('gives the same bytes for the same pages', async () => {
    const page = await picture(300, 424);
    expect(await bindPdf(each([page]), OPTIONS)).toEqual(await bindPdf(each([page]), OPTIONS));
  });

  it('refuses to make a file without pages', async () => {
    await expect(bindPdf(each([]), OPTIONS)).rejects.toMatchObject({ code: 'NO_PAGES' });
  });
});

describe('paper', () => {
  it('is filled where the proportions agree and centred where they do not', () => {
    expect(placeOnSheet(1000, 1410, sheetFor(1000, 1410, 'a4'))).toMatchObject({ xMm: 0, yMm: 0, widthMm: 210, heightMm: 297 });
    // an outline set a little off by hand still goes on paper, in its own proportions
    expect(sheetFor(1000, 1500, 'auto')).toEqual({ widthMm: 210, heightMm: 297 });
    expect(placeOnSheet(1000, 1500, sheetFor(1000, 1500, 'auto')).widthMm).toBeCloseTo(198, 6);
    expect(sheetFor(856, 540, 'auto').heightMm).toBeLessThan(190);
    const square = placeOnSheet(500, 500, sheetFor(500, 500, 'letter'));
    expect(square.widthMm).toBeCloseTo(215.9, 6);
    expect(square.yMm).toBeCloseTo((279.4 - 215.9) / 2, 6);
  });

  it('says how many pixels a resolution needs', () => {
    expect(longSideAtDpi(1000, 1414, 'auto', 300)).toBe(Math.round((297 / 25.4) * 300));
    expect(longSideAtDpi(1414, 1000, 'letter', 100)).toBe(1100);
  });
});
