import {
  beginText,
  endText,
  PDFOperator,
  PDFOperatorNames,
  PDFNumber,
  popGraphicsState,
  pushGraphicsState,
  setFontAndSize,
  setTextMatrix,
  showText,
  type PDFFont,
  type PDFPage,
} from '@cantoo/pdf-lib';
import type { Area, PageWord } from './boundPage';

/** Neither filled nor stroked: it is found and selected, and not seen. */
const INVISIBLE = 3;
/** What a letter's height is of its font's size, from baseline to the top of a tall one. */
const TALL_SHARE = 0.72;

/** Lays words over a page, each stretched to its own box, so that search and selection land on it. */
export function drawWords(page: PDFPage, words: readonly PageWord[], font: PDFFont, area: Area): void {
  const known = new Set(font.getCharacterSet());
  const name = page.node.newFontDictionary(font.name, font.ref);
  page.pushOperators(pushGraphicsState(), beginText(), operator(PDFOperatorNames.SetTextRenderingMode, INVISIBLE));
  for (const { text, x, y, width, height } of words) {
    const written = [...text].filter((letter) => known.has(letter.codePointAt(0)!)).join('');
    const size = (height * area.height) / TALL_SHARE;
    const natural = font.widthOfTextAtSize(written, size);
    if (written === '' || natural === 0 || size <= 0) continue;
    page.pushOperators(
      setFontAndSize(name, round(size)),
      operator(PDFOperatorNames.SetTextHorizontalScaling, round((100 * width * area.width) / natural)),
      setTextMatrix(1, 0, 0, 1, round(area.x + x * area.width), round(area.y + (1 - y - height) * area.height)),
      // the space keeps words apart for whoever copies them
      showText(font.encodeText(`${written} `)),
    );
  }
  page.pushOperators(endText(), popGraphicsState());
}

const operator = (name: PDFOperatorNames, value: number): PDFOperator => PDFOperator.of(name, [PDFNumber.of(value)]);
const round = (value: number): number => Math.round(value * 1000) / 1000;
