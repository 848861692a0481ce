import { rgb, type PDFDocument, type PDFFont } from '@cantoo/pdf-lib';
import { POINTS_PER_MM, type SheetSizeMm } from '../paper/paperSize';
import type { Structure } from './structure';
import { writable } from './writable';

/** What stands on the sheet before the pages. */
export interface CoverSheet {
  readonly title: string;
  /** What stands before the count of pages. */
  readonly pagesLabel: string;
  /** Name, number, course and the like, each with what it is. */
  readonly lines: readonly (readonly [label: string, value: string])[];
}

const INK = rgb(0.11, 0.15, 0.2);
const SOFT = rgb(0.38, 0.4, 0.42);
const MARGIN_MM = 24;

/** Puts a cover sheet before the pages. */
export function addCoverSheet(
  pdf: PDFDocument,
  { title, pagesLabel, lines }: CoverSheet,
  pageCount: number,
  sheet: SheetSizeMm,
  { font, structure }: { readonly font: PDFFont; readonly structure: Structure },
): void {
  const page = pdf.insertPage(0, [sheet.widthMm * POINTS_PER_MM, sheet.heightMm * POINTS_PER_MM]);
  const left = MARGIN_MM * POINTS_PER_MM;
  const room = (sheet.widthMm - 2 * MARGIN_MM) * POINTS_PER_MM;
  let y = (sheet.heightMm - 60) * POINTS_PER_MM;
  const section = structure.section(page, 'first');
  section.begin(section.add('H1'));
  for (const line of wrapped(title, font, 24, room)) {
    page.drawText(line, { x: left, y, size: 24, font, color: INK });
    y -= 30;
  }
  section.end();
  section.beginArtifact();
  page.drawLine({ start: { x: left, y: y + 8 }, end: { x: left + room, y: y + 8 }, thickness: 0.8, color: SOFT });
  section.end();
  y -= 18;
  for (const [label, value] of [...lines, [pagesLabel, pageCount === 1 ? '1' : `1–${pageCount}`] as const]) {
    section.begin(section.add('P'));
    page.drawText(writable(label, font), { x: left, y, size: 11, font, color: SOFT });
    for (const line of wrapped(value, font, 13, room - 110)) {
      page.drawText(line, { x: left + 110, y, size: 13, font, color: INK });
      y -= 22;
    }
    section.end();
  }
}

function wrapped(text: string, font: PDFFont, size: number, room: number): string[] {
  const lines: string[] = [];
  let line = '';
  for (const word of writable(text, font).split(/\s+/)) {
    const longer = line === '' ? word : `${line} ${word}`;
    if (line !== '' && font.widthOfTextAtSize(longer, size) > room) {
      lines.push(line);
      line = word;
    } else line = longer;
  }
  return [...lines, line];
}
