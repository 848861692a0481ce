import { EncryptedPDFError, PDFDocument } from '@cantoo/pdf-lib';
import { FotoplanError } from '../../errors';

/** The resolution at which a PDF's page is looked at; where it goes into a file unedited it keeps its own. */
export const PDF_DPI = 200;

/** A file that only forbids what may be done with it is encrypted with an empty password, and opens in every viewer. */
const load = (bytes: Uint8Array): Promise<PDFDocument> =>
  PDFDocument.load(bytes, { updateMetadata: false }).catch((error: unknown) => {
    if (!(error instanceof EncryptedPDFError)) throw error;
    return PDFDocument.load(bytes, { updateMetadata: false, password: '' }).catch(() => {
      throw error;
    });
  });

/**
 * Opens a PDF whose pages are to be taken over.
 * @throws FotoplanError PDF_UNREADABLE
 */
export async function openPdf(bytes: Uint8Array, name = 'The PDF'): Promise<PDFDocument> {
  try {
    const pdf = await load(bytes);
    if (pdf.getPageCount() === 0) throw new Error('no pages');
    return pdf;
  } catch (cause) {
    const locked = cause instanceof EncryptedPDFError;
    throw new FotoplanError(
      'PDF_UNREADABLE',
      locked
        ? `${name} is locked with a password. Save a copy without one and add that.`
        : `${name} is damaged or empty. Save it again from where it came, or add photos of its pages.`,
      {},
      { cause },
    );
  }
}

/**
 * Sizes of a PDF's pages as they are seen, in px at PDF_DPI.
 * @throws FotoplanError PDF_UNREADABLE
 */
export async function measurePdf(bytes: Uint8Array, name: string): Promise<{ width: number; height: number }[]> {
  const toPx = (points: number): number => Math.max(1, Math.round((points / 72) * PDF_DPI));
  return (await openPdf(bytes, `“${name}”`)).getPages().map((page) => {
    const { width, height } = page.getCropBox();
    const sideways = page.getRotation().angle % 180 !== 0;
    return sideways ? { width: toPx(height), height: toPx(width) } : { width: toPx(width), height: toPx(height) };
  });
}
