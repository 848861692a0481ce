import { PDFArray, PDFDict, PDFName, PDFNumber, PDFRawStream, PDFRef, PDFStream, type PDFPage } from '@cantoo/pdf-lib';
import { unzlibSync } from 'fflate';
import { plainJpeg } from './plainJpeg';

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
  const seen = new Set<PDFDict>();
  const cleanPictures = (resources: PDFDict | undefined): void => {
    const pictures = resources?.lookupMaybe(name('XObject'), PDFDict);
    if (pictures === undefined || seen.has(pictures)) return;
    seen.add(pictures);
    for (const [key, value] of pictures.entries()) {
      const picture = pictures.lookup(key);
      if (!(picture instanceof PDFStream)) continue;
      forget(picture.dict, ABOUT);
      // a form holds pictures of its own
      cleanPictures(picture.dict.lookupMaybe(name('Resources'), PDFDict));
      const plain = picture instanceof PDFRawStream && value instanceof PDFRef ? withPlainJpeg(picture) : null;
      if (plain !== null) context.assign(value as PDFRef, plain);
    }
  };
  cleanPictures(node.Resources());
}

/** What is damaged stays so: a reader shows what it can of it. */
function unpacked(contents: Uint8Array): Uint8Array {
  try {
    return unzlibSync(contents);
  } catch {
    return contents;
  }
}

/** A picture whose JPEG tells nothing of its making; null where it is not a JPEG or told nothing. */
function withPlainJpeg({ dict, contents }: PDFRawStream): PDFRawStream | null {
  const filter = dict.lookup(name('Filter'));
  const filters = filter instanceof PDFArray ? filter.asArray().map(String) : [String(filter)];
  const isPacked = filters.length === 2 && filters[0] === '/FlateDecode' && filters[1] === '/DCTDecode';
  if (!isPacked && !(filters.length === 1 && filters[0] === '/DCTDecode')) return null;
  const jpeg = isPacked ? unpacked(contents) : contents;
  const plain = plainJpeg(jpeg);
  if (plain === jpeg) return null;
  dict.set(name('Filter'), name('DCTDecode'));
  dict.set(name('Length'), PDFNumber.of(plain.length));
  if (isPacked) dict.delete(name('DecodeParms'));
  return PDFRawStream.of(dict, plain);
}
