import {
  BlendMode,
  closePath,
  fill,
  lineTo,
  moveTo,
  popGraphicsState,
  pushGraphicsState,
  rgb,
  setFillingRgbColor,
  setGraphicsState,
  type PDFFont,
  type PDFPage,
} from '@cantoo/pdf-lib';
import {
  HIGHLIGHTER_OPACITY,
  NOTE_LINE,
  strokeOutline,
  type Mark,
  type NoteMark,
  type StrokeMark,
} from '../marks/marks';
import type { Area } from './boundPage';
import type { Part, Section } from './structure';
import { writable } from './writable';

const channels = (colour: string): [number, number, number] =>
  [1, 3, 5].map((at) => Number.parseInt(colour.slice(at, at + 2), 16) / 255) as [number, number, number];
const LINE_SPACING = 1.25;

/** Where marks go, and what part of the page they are; nothing is known of the parts of a page that was taken over. */
export interface MarksPlace {
  readonly area: Area;
  readonly fontFor: () => Promise<PDFFont>;
  readonly section: Section | null;
  /** The page's picture, which strokes belong to. */
  readonly figure: Part | null;
}

/** Draws marks over a page as outlines that can be filled, not as pixels. */
export async function drawMarks(page: PDFPage, marks: readonly Mark[], place: MarksPlace): Promise<void> {
  const { area, fontFor, section, figure } = place;
  for (const mark of marks) {
    if (mark.kind === 'note') {
      section?.begin(section.add('P'));
      drawNote(page, mark, await fontFor(), area);
      section?.end();
      continue;
    }
    const corners = strokeOutline(mark, area.width, area.height).map(
      ([x, y]) => [round(area.x + x), round(area.y + area.height - y)] as const,
    );
    if (corners.length < 3) continue;
    if (figure !== null) section?.begin(figure);
    drawStroke(page, mark, corners);
    if (figure !== null) section?.end();
  }
}

function drawNote(page: PDFPage, { at, text, colour }: NoteMark, font: PDFFont, area: Area): void {
  const size = NOTE_LINE * Math.max(area.width, area.height);
  text.split('\n').forEach((line, k) => {
    page.drawText(writable(line, font), {
      x: area.x + at.x * area.width,
      y: area.y + (1 - at.y) * area.height - size * (1 + k * LINE_SPACING),
      size,
      font,
      color: rgb(...channels(colour)),
    });
  });
}

function drawStroke(
  page: PDFPage,
  { kind, colour }: StrokeMark,
  corners: readonly (readonly [number, number])[],
): void {
  const through =
    kind === 'highlighter'
      ? [
          setGraphicsState(
            page.node.newExtGState(
              'Through',
              page.doc.context.obj({ Type: 'ExtGState', ca: HIGHLIGHTER_OPACITY, BM: BlendMode.Multiply }),
            ),
          ),
        ]
      : [];
  const [first, ...rest] = corners;
  page.pushOperators(
    pushGraphicsState(),
    ...through,
    setFillingRgbColor(...channels(colour)),
    moveTo(...first!),
    ...rest.map((corner) => lineTo(...corner)),
    closePath(),
    fill(),
    popGraphicsState(),
  );
}

const round = (value: number): number => Math.round(value * 100) / 100;
