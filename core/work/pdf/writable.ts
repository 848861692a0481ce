import type { PDFFont } from '@cantoo/pdf-lib';

/** Letters the font does not have become question marks: a missing letter must be seen, not swallowed. */
export function writable(text: string, font: PDFFont): string {
  const known = new Set(font.getCharacterSet());
  return [...text].map((letter) => (known.has(letter.codePointAt(0)!) ? letter : '?')).join('');
}
