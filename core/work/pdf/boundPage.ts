import type { CodedPage } from '../../imaging/layers/codedPage';
import type { Mark } from '../marks/marks';
import type { PageKind } from '../paper/pageKind';
import type { PageWord } from '../words/pageWord';

/** A page of a PDF that goes into the file as it is: text stays text. */
export interface PdfPage {
  readonly pdf: Uint8Array;
  /** From 0. */
  readonly pdfPage: number;
  /** Clockwise, on top of what the PDF says. */
  readonly quarterTurns: number;
  /** How many pages of this PDF go into the file: they share what it weighs. */
  readonly pagesTaken: number;
}

/** A page on its way into the file. */
export interface BoundPage {
  readonly content: CodedPage | PdfPage;
  /** What was photographed, where that says how large it truly is. */
  readonly kind?: PageKind;
  /** Laid invisibly over the page, so that it can be searched. */
  readonly words?: readonly PageWord[];
  readonly marks?: readonly Mark[];
}

/** Part of a sheet in points, from the lower left. */
export interface Area {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}
