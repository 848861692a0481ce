import { concatTransformationMatrix, degrees, drawObject, PDFDocument, popGraphicsState, pushGraphicsState, type PDFPage } from '@cantoo/pdf-lib';
import { FotoplanError } from '../errors';
import type { PageKind } from '../recipe/recipe';
import { openPdf } from './openPdf';
import { placeOnSheet, POINTS_PER_MM, sheetFor, type Paper } from './paperSize';

/** A finished page, coded, with its size in px. */
export interface PagePicture {
  /** A JPEG file, or the segments of encodeJbig2. */
  readonly coding: 'jpeg' | 'jbig2';
  readonly bytes: Uint8Array;
  readonly width: number;
  readonly height: number;
  /** What was photographed, where that says how large it truly is. */
  readonly kind?: PageKind;
}

/** A page of a PDF that goes into the file as it is: text stays text. */
export interface PdfPage {
  readonly pdf: Uint8Array;
  /** From 0. */
  readonly pdfPage: number;
  /** Clockwise, on top of what the PDF says. */
  readonly quarterTurns: number;
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
export async function bindPdf(pages: AsyncIterable<PagePicture | PdfPage>, { title, paper, nowMs }: BindOptions): Promise<Uint8Array> {
  const pdf = await PDFDocument.create();
  let source = null as { bytes: Uint8Array; document: PDFDocument } | null;
  for await (const each of pages) {
    if ('pdf' in each) {
      // pages of one PDF follow each other: it is read once
      if (source?.bytes !== each.pdf) source = { bytes: each.pdf, document: await openPdf(each.pdf) };
      const [copy] = await pdf.copyPages(source.document, [each.pdfPage]);
      if (each.quarterTurns !== 0) copy!.setRotation(degrees((copy!.getRotation().angle + 90 * each.quarterTurns) % 360));
      pdf.addPage(copy);
      continue;
    }
    const { width, height, kind } = each;
    const sheet = sheetFor(width, height, paper, kind);
    const place = placeOnSheet(width, height, sheet, kind);
    const page = pdf.addPage([sheet.widthMm * POINTS_PER_MM, sheet.heightMm * POINTS_PER_MM]);
    const area = { x: place.xMm * POINTS_PER_MM, y: place.yMm * POINTS_PER_MM, width: place.widthMm * POINTS_PER_MM, height: place.heightMm * POINTS_PER_MM };
    if (each.coding === 'jpeg') page.drawImage(await pdf.embedJpg(each.bytes), area);
    else drawBilevel(pdf, page, each, area);
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

/** Lays a JBIG2 picture on a page: the library knows no such images, so its object is written here. */
function drawBilevel(pdf: PDFDocument, page: PDFPage, { bytes, width, height }: PagePicture, area: { readonly x: number; readonly y: number; readonly width: number; readonly height: number }): void {
  const image = pdf.context.stream(bytes, { Type: 'XObject', Subtype: 'Image', Width: width, Height: height, ColorSpace: 'DeviceGray', BitsPerComponent: 1, Filter: 'JBIG2Decode' });
  const name = page.node.newXObject('Image', pdf.context.register(image));
  page.pushOperators(pushGraphicsState(), concatTransformationMatrix(area.width, 0, 0, area.height, area.x, area.y), drawObject(name), popGraphicsState());
}
