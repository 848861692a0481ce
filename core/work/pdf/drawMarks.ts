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
import { HIGHLIGHTER_OPACITY, NOTE_LINE, strokeOutline, type Mark } from '../marks/marks';
import type { Area } from './boundPage';

const channels = (colour: string): [number, number, number] =>
  [1, 3, 5].map((at) => Number.parseInt(colour.slice(at, at + 2), 16) / 255) as [number, number, number];
const LINE_SPACING = 1.25;

/** Draws marks over a page as outlines that can be filled, not as pixels. */
export async function drawMarks(
  page: PDFPage,
  marks: readonly Mark[],
  fontFor: () => Promise<PDFFont>,
  area: Area,
): Promise<void> {
  for (const mark of marks) {
    if (mark.kind === 'note') {
      const font = await fontFor();
      const size = NOTE_LINE * Math.max(area.width, area.height);
      const known = new Set(font.getCharacterSet());
      mark.text.split('\n').forEach((line, k) => {
        const text = [...line].map((letter) => (known.has(letter.codePointAt(0)!) ? letter : '?')).join('');
        page.drawText(text, {
          x: area.x + mark.at.x * area.width,
          y: area.y + (1 - mark.at.y) * area.height - size * (1 + k * LINE_SPACING),
          size,
          font,
          color: rgb(...channels(mark.colour)),
        });
      });
      continue;
    }
    const corners = strokeOutline(mark, area.width, area.height).map(
      ([x, y]) => [round(area.x + x), round(area.y + area.height - y)] as const,
    );
    if (corners.length < 3) continue;
    const through =
      mark.kind === 'highlighter'
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
      setFillingRgbColor(...channels(mark.colour)),
      moveTo(...first!),
      ...rest.map((corner) => lineTo(...corner)),
      closePath(),
      fill(),
      popGraphicsState(),
    );
  }
}

const round = (value: number): number => Math.round(value * 100) / 100;
