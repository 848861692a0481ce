import { PDFArray, PDFDict, PDFName, PDFRef, PDFStream, type PDFPage } from '@cantoo/pdf-lib';

const name = (text: string): PDFName => PDFName.of(text);
/** Things that run, play or carry files along (ISO 32000-1, table 169); what is written or drawn on a page stays. */
const LIVELY = new Set(['FileAttachment', 'RichMedia', 'Movie', 'Sound', 'Screen', '3D'].map((text) => `/${text}`));
/** Who made a picture, with what and when. */
const ABOUT = ['Metadata', 'PieceInfo', 'LastModified'];

/**
 * Takes out of a page that came from elsewhere what acts by itself or leads outside: scripts, launched programs, addresses,
 * forms that send themselves, attached files; and what tells of its making. What is seen stays as it is.
 * @param page - already copied; it is changed
 */
export function sanitisePageInto({ node }: PDFPage): void {
  const { context } = node;
  /** An object of its own would stay in the file unseen. */
  const forget = (dict: PDFDict, keys: readonly string[]): void => {
    for (const key of keys) {
      const value = dict.get(name(key));
      if (value instanceof PDFRef) context.delete(value);
      dict.delete(name(key));
    }
  };
  forget(node, ['AA', 'Thumb', ...ABOUT]);
  const annotations = node.lookupMaybe(name('Annots'), PDFArray);
  for (let i = (annotations?.size() ?? 0) - 1; i >= 0; i--) {
    const annotation = annotations!.lookupMaybe(i, PDFDict);
    if (annotation !== undefined) forget(annotation, ['A', 'AA', 'PA', 'FS', 'RichMediaContent']);
    if (annotation !== undefined && !LIVELY.has(String(annotation.get(name('Subtype'))))) continue;
    const own = annotations!.get(i);
    if (own instanceof PDFRef) context.delete(own);
    annotations!.remove(i);
  }
  const pictures = node.Resources()?.lookupMaybe(name('XObject'), PDFDict);
  for (const [key] of pictures?.entries() ?? []) {
    const picture = pictures!.lookup(key);
    if (picture instanceof PDFStream) forget(picture.dict, ABOUT);
  }
}
