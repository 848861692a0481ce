import { PDFDocument } from '@cantoo/pdf-lib';
import { FotoplanError } from '../errors';
import { placeOnSheet, POINTS_PER_MM, sheetFor, type Paper } from './paperSize';

/** A finished page as a JPEG file with its size in px. */
export interface PagePicture {
  readonly jpeg: Uint8Array;
  readonly width: number;
  readonly height: number;
}

export interface BindOptions {
  readonly title: string;
  readonly paper: Paper;
  /** Written as the file's creation time; the same pages and time give the same bytes. */
  readonly nowMs: number;
}

/**
 * Makes the PDF: one sheet a page, in the order given, each picture at its true physical size.
 * @param pages - asked for one after another, so that only one page need be in memory beside the file
 * @throws FotoplanError NO_PAGES when there are none
 */
export async function bindPdf(pages: AsyncIterable<PagePicture>, { title, paper, nowMs }: BindOptions): Promise<Uint8Array> {
  const pdf = await PDFDocument.create();
  for await (const { jpeg, width, height } of pages) {
    const sheet = sheetFor(width, height, paper);
    const place = placeOnSheet(width, height, sheet);
    const page = pdf.addPage([sheet.widthMm * POINTS_PER_MM, sheet.heightMm * POINTS_PER_MM]);
    page.drawImage(await pdf.embedJpg(jpeg), {
      x: place.xMm * POINTS_PER_MM,
      y: place.yMm * POINTS_PER_MM,
      width: place.widthMm * POINTS_PER_MM,
      height: place.heightMm * POINTS_PER_MM,
    });
  }
  if (pdf.getPageCount() === 0) throw new FotoplanError('NO_PAGES', 'There is no page to bind. Add photos first.');
  pdf.setTitle(title, { showInWindowTitleBar: true });
  pdf.setCreator('Fotoplan');
  pdf.setProducer('Fotoplan');
  pdf.setLanguage('en');
  pdf.setCreationDate(new Date(nowMs));
  pdf.setModificationDate(new Date(nowMs));
  return pdf.save();
}
