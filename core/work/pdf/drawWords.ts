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
  type PDFName,
  type PDFPage,
} from '@cantoo/pdf-lib';
import { visualOrder } from '../words/visualOrder';
import type { Area } from './boundPage';
import type { PageWord } from '../words/pageWord';
import { paragraphs } from '../words/paragraphs';
import type { PartKind, Section } from './structure';
import { UNSEEN_WIDTH, type UnseenFonts } from './unseenFont';

/** Neither filled nor stroked: it is found and selected, and not seen. */
const INVISIBLE = 3;
/** What a letter's height is of its font's size, from baseline to the top of a tall one. */
const TALL_SHARE = 0.72;

export interface WordsPlace {
  readonly area: Area;
  readonly fonts: UnseenFonts;
  /** Where the words become headings and paragraphs; null on a page that was taken over, whose parts are not known. */
  readonly section: Section | null;
  readonly heading: PartKind;
}

/** Lays words over a page, each stretched to its own box, so that search and selection land on it. */
export function drawWords(
  page: PDFPage,
  words: readonly PageWord[],
  { area, fonts, section, heading }: WordsPlace,
): void {
  const names = new Map<number, PDFName>();
  const nameOf = (font: number): PDFName => {
    const name = names.get(font) ?? page.node.newFontDictionary('Unseen', fonts.ref(font));
    names.set(font, name);
    return name;
  };
  page.pushOperators(pushGraphicsState(), beginText(), operator(PDFOperatorNames.SetTextRenderingMode, INVISIBLE));
  const draw = ({ text, x, y, width, height }: PageWord): void => {
    const size = (height * area.height) / TALL_SHARE;
    // the space keeps words apart for whoever copies them
    const encoded = fonts.encode(`${visualOrder(text)} `);
    if (encoded === null || text === '' || size <= 0) return;
    const natural = (encoded.count - 1) * UNSEEN_WIDTH * size;
    page.pushOperators(
      setFontAndSize(nameOf(encoded.font), round(size)),
      operator(PDFOperatorNames.SetTextHorizontalScaling, round((100 * width * area.width) / natural)),
      setTextMatrix(1, 0, 0, 1, round(area.x + x * area.width), round(area.y + (1 - y - height) * area.height)),
      showText(encoded.codes),
    );
  };
  for (const paragraph of paragraphs(words)) {
    section?.begin(section.add(paragraph.isHeading ? heading : 'P'));
    paragraph.words.forEach(draw);
    section?.end();
  }
  page.pushOperators(endText(), popGraphicsState());
}

const operator = (name: PDFOperatorNames, value: number): PDFOperator => PDFOperator.of(name, [PDFNumber.of(value)]);
const round = (value: number): number => Math.round(value * 1000) / 1000;
