import { PDFArray, PDFName, PDFNumber, PDFRawStream } from '@cantoo/pdf-lib';
import { unzlibSync } from 'fflate';
import { plainJpeg } from '../plainJpeg';

const name = (text: string): PDFName => PDFName.of(text);

/** What is damaged stays so: a reader shows what it can of it. */
function unpacked(contents: Uint8Array): Uint8Array {
  try {
    return unzlibSync(contents);
  } catch {
    return contents;
  }
}

/**
 * A picture whose JPEG tells nothing of its making.
 * @param stream - its dictionary is changed where something is taken out
 * @returns null where it is not a JPEG or told nothing
 */
export function withPlainJpeg({ dict, contents }: PDFRawStream): PDFRawStream | null {
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
