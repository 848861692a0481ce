import { degrees, PDFDocument, type PDFFont, type PDFPage } from '@cantoo/pdf-lib';
import * as fontkit from 'fontkit';
import { bytesToHex } from '@noble/hashes/utils';
import { sha256 } from '@noble/hashes/sha2';
import { FotoplanError } from '../../errors';
import type { Area, BoundPage, PdfPage } from './boundPage';
import { addCoverSheet, type CoverSheet } from './coverSheet';
import { describeFile } from './describeFile';
import type { CodedPage } from '../../imaging/layers/codedPage';
import { drawCoded } from './drawCoded';
import { turnMarks } from '../marks/marks';
import { drawMarks } from './drawMarks';
import { drawWords } from './drawWords';
import { figureText } from './figureText';
import { ForeignPages } from './foreign/foreignPages';
import { Structure, type Part, type Section } from './structure';
import { UnseenFonts } from './unseenFont';
import { placeOnSheet, POINTS_PER_MM, sheetFor, sheetOfWidth, type Paper, type SheetSizeMm } from '../paper/paperSize';

export interface BindOptions {
  readonly title: string;
  readonly author?: string;
  /** What the pages are written in, as BCP 47; English where it is left out. */
  readonly language?: string;
  readonly paper: Paper;
  readonly marginMm?: number;
  /** All sheets as wide as A4, or Letter where that is the paper, whichever way they are turned. */
  readonly sameWidth?: boolean;
  readonly cover?: CoverSheet;
  /** A TrueType font for the cover and for notes; needed where there are any. */
  readonly font?: Uint8Array;
}

const SAME_WIDTH_MM: Readonly<Partial<Record<Paper, number>>> = { letter: 215.9, a5: 148 };
const A4_WIDTH_MM = 210;

/**
 * Makes the PDF: one sheet a page, in the order given, each picture at its true physical size. The same pages and options give
 * the same bytes.
 * @param pages - asked for one after another, so that only one page need be in memory beside the file
 * @throws FotoplanError NO_PAGES when there are none; PDF_UNREADABLE for a PDF page that cannot be taken over
 */
export async function bindPdf(
  pages: AsyncIterable<BoundPage> | Iterable<BoundPage>,
  options: BindOptions,
): Promise<Uint8Array> {
  const pdf = await PDFDocument.create({ updateMetadata: false });
  const unseen = new UnseenFonts(pdf);
  const ownFont = ownFontOf(pdf, options.font);
  const foreign = new ForeignPages(pdf);
  const fingerprint = sha256
    .create()
    .update(new TextEncoder().encode(JSON.stringify([options.title, options.paper, options.cover ?? null])));
  const structure = new Structure();
  const { cover, language = 'en' } = options;
  let archival = true;
  let number = 0;
  for await (const { content, kind, words = [], marks = [] } of pages) {
    if ('pdf' in content) archival = false;
    const text = figureText(++number, language, { words, marks });
    const { page, area, section, figure } =
      'pdf' in content
        ? await addPdfPage(foreign, content)
        : await addPicture(pdf, content, options, { kind, structure, text });
    for (const bytes of identityOf(content)) fingerprint.update(bytes);
    if (words.length > 0)
      drawWords(page, words, { area, fonts: unseen, section, heading: cover === undefined ? 'H1' : 'H2' });
    // a page taken over may be shown turned: what is written on it is placed as it is read
    if (marks.length > 0)
      await drawMarks(page, turnMarks(marks, -page.getRotation().angle / 90), {
        area,
        fontFor: ownFont,
        section,
        figure,
      });
  }
  const pageCount = pdf.getPageCount();
  if (pageCount === 0) throw new FotoplanError('NO_PAGES', 'There is no page to bind. Add photos first.');
  if (cover !== undefined)
    addCoverSheet(
      pdf,
      cover,
      pageCount,
      sheetFor(A4_WIDTH_MM, 297, options.paper === 'asshot' ? 'auto' : options.paper),
      { font: await ownFont(), structure },
    );
  unseen.write();
  await foreign.finish();
  // what a page of another PDF is made of is not known, and readers would pass over it in a file that claims to say so
  if (archival) structure.write(pdf);
  describeFile(pdf, {
    title: options.title,
    language,
    ...(options.author === undefined ? {} : { author: options.author }),
    archival,
    fingerprint: bytesToHex(fingerprint.digest()).slice(0, 32),
    firstPage: cover === undefined ? 0 : 1,
  });
  return pdf.save({ addDefaultPage: false });
}

/** A page of the file, and where on it the content lies, in points. */
interface AddedPage {
  readonly page: PDFPage;
  readonly area: Area;
  readonly section: Section | null;
  readonly figure: Part | null;
}

/** Takes over a page of another PDF, turned as it was asked for. */
async function addPdfPage(foreign: ForeignPages, content: PdfPage): Promise<AddedPage> {
  const page = await foreign.add(content);
  page.setRotation(degrees((page.getRotation().angle + 90 * content.quarterTurns) % 360));
  return { page, area: page.getCropBox(), section: null, figure: null };
}

/** Lays a picture on a sheet of its own. */
async function addPicture(
  pdf: PDFDocument,
  content: CodedPage,
  options: BindOptions,
  { kind, structure, text }: { readonly kind: BoundPage['kind']; readonly structure: Structure; readonly text: string },
): Promise<AddedPage> {
  const { width, height } = content;
  const sheet = sheetIn(options, sheetFor(width, height, options.paper, kind));
  const place = placeOnSheet(width, height, sheet, kind, options.marginMm);
  const page = pdf.addPage([sheet.widthMm * POINTS_PER_MM, sheet.heightMm * POINTS_PER_MM]);
  const area = {
    x: place.xMm * POINTS_PER_MM,
    y: place.yMm * POINTS_PER_MM,
    width: place.widthMm * POINTS_PER_MM,
    height: place.heightMm * POINTS_PER_MM,
  };
  const section = structure.section(page);
  const figure = section.add('Figure', { text, area });
  section.begin(figure);
  await drawCoded(pdf, page, content, area);
  section.end();
  return { page, area, section, figure };
}

/** What of a page's content goes into the file's identifier. */
function identityOf(content: BoundPage['content']): readonly Uint8Array[] {
  if ('pdf' in content) return [new TextEncoder().encode(`${content.pdfPage} of ${content.pdf.length}`)];
  return content.coding === 'layers' ? content.inks.map((ink) => ink.bytes) : [content.bytes];
}

const sheetIn = ({ sameWidth = false, paper }: BindOptions, sheet: SheetSizeMm): SheetSizeMm =>
  sameWidth ? sheetOfWidth(sheet, SAME_WIDTH_MM[paper] ?? A4_WIDTH_MM) : sheet;

/** A font of which only some signs are in the file says so in its name (ISO 32000-1, 9.6.4). */
const FONT_NAME = 'FOTOPL+AtkinsonHyperlegibleNext-Regular';

/** The font is put into the file only when something is written in it, and of it only the signs that are. */
function ownFontOf(pdf: PDFDocument, bytes: Uint8Array | undefined): () => Promise<PDFFont> {
  let own: Promise<PDFFont> | null = null;
  return () => {
    if (bytes === undefined) throw new Error('bindPdf: a cover or a note needs a font');
    pdf.registerFontkit(fontkit);
    return (own ??= pdf.embedFont(bytes, { subset: true, customName: FONT_NAME }));
  };
}
