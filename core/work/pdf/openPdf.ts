import { EncryptedPDFError, PDFDict, PDFDocument, PDFName, PDFNumber } from '@cantoo/pdf-lib';
import { FotoplanError } from '../../errors';

/** The resolution at which a PDF's page is looked at; where it goes into a file unedited it keeps its own. */
export const PDF_DPI = 200;

/** What the owner of a PDF may forbid those who open it, and the bit that allows it (ISO 32000-1, table 22). */
const ALLOWED_BY = { print: 0x04, change: 0x08, copy: 0x10, annotate: 0x20 } as const;
export type Forbidden = keyof typeof ALLOWED_BY;

export interface OpenedPdf {
  readonly pdf: PDFDocument;
  /** Readers show that; what is taken over into another file is no longer kept to it. */
  readonly forbids: readonly Forbidden[];
}

/** A file that only forbids what may be done with it is encrypted with an empty password, and opens in every viewer. */
async function load(bytes: Uint8Array): Promise<OpenedPdf> {
  try {
    return { pdf: await PDFDocument.load(bytes, { updateMetadata: false }), forbids: [] };
  } catch (error) {
    if (!(error instanceof EncryptedPDFError)) throw error;
    const pdf = await PDFDocument.load(bytes, { updateMetadata: false, password: '' }).catch(() => {
      throw error;
    });
    return { pdf, forbids: await forbiddenIn(bytes) };
  }
}

/** What is forbidden is told where it is encrypted: once it has been decrypted that is gone. */
async function forbiddenIn(bytes: Uint8Array): Promise<readonly Forbidden[]> {
  const { context } = await PDFDocument.load(bytes, { updateMetadata: false, ignoreEncryption: true });
  const encryption = context.lookup(context.trailerInfo.Encrypt);
  const allowed = encryption instanceof PDFDict ? encryption.lookup(PDFName.of('P')) : undefined;
  if (!(allowed instanceof PDFNumber)) return [];
  return (Object.keys(ALLOWED_BY) as Forbidden[]).filter((what) => (allowed.asNumber() & ALLOWED_BY[what]) === 0);
}

/** @throws FotoplanError PDF_UNREADABLE */
export const openPdf = async (bytes: Uint8Array, name?: string): Promise<PDFDocument> =>
  (await openForeignPdf(bytes, name)).pdf;

/**
 * Opens a PDF whose pages are to be taken over.
 * @throws FotoplanError PDF_UNREADABLE
 */
export async function openForeignPdf(bytes: Uint8Array, name = 'The PDF'): Promise<OpenedPdf> {
  try {
    const opened = await load(bytes);
    if (opened.pdf.getPageCount() === 0) throw new Error('no pages');
    return opened;
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
 * Sizes of a PDF's pages as they are seen, in px at PDF_DPI, and what its owner forbids.
 * @throws FotoplanError PDF_UNREADABLE
 */
export async function measurePdf(
  bytes: Uint8Array,
  name: string,
): Promise<{ readonly pages: readonly { width: number; height: number }[]; readonly forbids: readonly Forbidden[] }> {
  const toPx = (points: number): number => Math.max(1, Math.round((points / 72) * PDF_DPI));
  const { pdf, forbids } = await openForeignPdf(bytes, `“${name}”`);
  const pages = pdf.getPages().map((page) => {
    const { width, height } = page.getCropBox();
    const sideways = page.getRotation().angle % 180 !== 0;
    return sideways ? { width: toPx(height), height: toPx(width) } : { width: toPx(width), height: toPx(height) };
  });
  return { pages, forbids };
}
