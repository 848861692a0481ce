import { PDFDocument } from '@cantoo/pdf-lib';
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import sharp from 'sharp';
import { encodeJbig2 } from '../compress/jbig2';
import { createPixelImage } from '../raster/pixelImage';
import { bindPdf, type PagePicture, type PdfPage } from './bindPdf';
import { measurePdf } from './openPdf';
import { longSideAtDpi, placeOnSheet, sheetFor } from './paperSize';

const picture = async (width: number, height: number): Promise<PagePicture> => ({
  coding: 'jpeg',
  bytes: await sharp({ create: { width, height, channels: 3, background: '#fff' } }).jpeg().toBuffer(),
  width,
  height,
});
async function* each(pages: readonly (PagePicture | PdfPage)[]): AsyncGenerator<PagePicture | PdfPage> {
  for (const page of pages) yield await Promise.resolve(page);
}
const OPTIONS = { title: 'Set 4', paper: 'auto', nowMs: 1_700_000_000_000 } as const;

/** qpdf locks a file as an office would. */
async function lockedPdf(): Promise<Uint8Array> {
  const folder = mkdtempSync(path.join(tmpdir(), 'fotoplan-'));
  const open = await PDFDocument.create();
  open.addPage([200, 200]);
  writeFileSync(path.join(folder, 'open.pdf'), await open.save());
  execFileSync('qpdf', ['--encrypt', 'tide', 'tide', '256', '--', path.join(folder, 'open.pdf'), path.join(folder, 'locked.pdf')]);
  return readFileSync(path.join(folder, 'locked.pdf'));
}

describe('bindPdf', () => {
  it('takes bilevel pages in as JBIG2, which another reader gives back bit for bit', async () => {
    const width = 347;
    const height = 491;
    const page = createPixelImage(width, height, 1);
    for (let i = 0; i < page.data.length; i++) page.data[i] = (i % width) % 17 < 4 && Math.floor(i / width) % 11 < 5 ? 0 : 255;
    const file = path.join(mkdtempSync(path.join(tmpdir(), 'fotoplan-')), 'press.pdf');
    writeFileSync(file, await bindPdf(each([{ coding: 'jbig2', bytes: encodeJbig2(page), width, height }, await picture(500, 700)]), OPTIONS));
    execFileSync('qpdf', ['--check', file]);
    execFileSync('pdfimages', ['-f', '1', '-l', '1', '-png', file, file]);
    const { data, info } = await sharp(`${file}-000.png`).greyscale().raw().toBuffer({ resolveWithObject: true });
    expect([info.width, info.height]).toEqual([width, height]);
    expect(data.equals(Buffer.from(page.data))).toBe(true);
  });

  it('makes one sheet a page, in order, at its true size, turned as the page is', async () => {
    const bytes = await bindPdf(each([await picture(1000, 1414), await picture(1294, 1000), await picture(500, 500)]), OPTIONS);
    const pdf = await PDFDocument.load(bytes, { updateMetadata: false });
    const millimetres = pdf.getPages().map((page) => [page.getWidth(), page.getHeight()].map((points) => (points / 72) * 25.4));
    const expected = [[210, 297], [279.4, 215.9], [297, 297]];
    millimetres.forEach((size, i) => size.forEach((mm, k) => expect(Math.abs(mm - expected[i]![k]!)).toBeLessThan(0.1)));
    expect(pdf.getTitle()).toBe('Set 4');
    expect(pdf.getCreationDate()?.getTime()).toBe(OPTIONS.nowMs);
  });

  it('takes a PDF’s pages over as they are: text stays text, turned where asked', async () => {
    const source = await PDFDocument.create();
    source.addPage([300, 500]).drawText('High water at Gannet Haven', { x: 20, y: 400, size: 12 });
    source.addPage([400, 200]);
    const pdf = await source.save();
    expect(await measurePdf(pdf, 'handout.pdf')).toEqual([{ width: 833, height: 1389 }, { width: 1111, height: 556 }]);
    const bytes = await bindPdf(each([await picture(1000, 1414), { pdf, pdfPage: 0, quarterTurns: 1 }, { pdf, pdfPage: 1, quarterTurns: 0 }]), OPTIONS);
    const bound = await PDFDocument.load(bytes);
    expect(bound.getPages().map((page) => [Math.round(page.getWidth()), Math.round(page.getHeight()), page.getRotation().angle])).toEqual([[595, 842, 0], [300, 500, 90], [400, 200, 0]]);
    const file = path.join(mkdtempSync(path.join(tmpdir(), 'fotoplan-')), 'bound.pdf');
    writeFileSync(file, bytes);
    expect(execFileSync('pdftotext', [file, '-']).toString()).toContain('High water at Gannet Haven');
  });

  it.each([['locked', lockedPdf, 'password'], ['damaged', () => Promise.resolve(Buffer.from('%PDF-1.7\n%%EOF')), 'damaged']] as const)('refuses a %s PDF with the way on', async (_name, make, words) => {
    const pdf = await make();
    await expect(measurePdf(pdf, 'notes.pdf')).rejects.toMatchObject({ code: 'PDF_UNREADABLE', message: expect.stringMatching(new RegExp(`“notes.pdf”.*${words}`)) as string });
  });

  it('puts a card at its true size in the middle of the paper', () => {
    const sheet = sheetFor(1586, 1000, 'a4', 'card');
    const place = placeOnSheet(1586, 1000, sheet, 'card');
    expect(place.widthMm).toBeCloseTo(85.6, 6);
    expect(place.xMm * 2 + place.widthMm).toBeCloseTo(sheet.widthMm, 6);
    expect(sheetFor(1586, 1000, 'auto', 'card').widthMm).toBeCloseTo(85.6, 6);
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
