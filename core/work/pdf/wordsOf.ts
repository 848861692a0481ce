import { readingOrder, type PlacedWord } from '../words/readingOrder';
import type { PageWord } from './boundPage';

interface Box {
  readonly x0: number;
  readonly y0: number;
  readonly x1: number;
  readonly y1: number;
}

/** What an OCR engine says of a page, as far as it is used: boxes in px. */
export interface ReadBlock {
  readonly paragraphs: readonly {
    readonly lines: readonly {
      /** What its letters stand on, from end to end. */
      readonly baseline: Box;
      /** How tall the line is from the lowest to the highest letter, and how much of that is below its baseline; px. */
      readonly rowAttributes: { readonly rowHeight: number; readonly descenders: number };
      readonly words: readonly {
        readonly text: string;
        readonly confidence: number;
        readonly bbox: Box;
      }[];
    }[];
  }[];
}

/** Below this a word is a guess: what cannot be read must do no harm to a search. */
const LEAST_CONFIDENCE = 45;

/**
 * The words that were read well enough to be searched for, in reading order, each line on one baseline and in one size.
 * @param width - of the picture that was read, in px, as height is
 */
export function wordsOf(blocks: readonly ReadBlock[] | null, width: number, height: number): PageWord[] {
  const lines = (blocks ?? []).flatMap((block) => block.paragraphs.flatMap((paragraph) => paragraph.lines));
  const placed = lines.flatMap(({ words, baseline, rowAttributes }, piece): PlacedWord[] => {
    const slope = (baseline.y1 - baseline.y0) / Math.max(1, baseline.x1 - baseline.x0);
    return words
      .filter(({ text, confidence }) => confidence >= LEAST_CONFIDENCE && /[\p{L}\p{N}]/u.test(text))
      .map(({ text, bbox: { x0, x1 } }) => ({
        text,
        x0,
        x1,
        baseline: baseline.y0 + slope * ((x0 + x1) / 2 - baseline.x0),
        tall: Math.max(1, rowAttributes.rowHeight - Math.abs(rowAttributes.descenders)),
        piece,
      }));
  });
  return readingOrder(placed)
    .flat()
    .map(({ text, x0, x1, baseline, tall }) => ({
      text,
      x: x0 / width,
      y: (baseline - tall) / height,
      width: (x1 - x0) / width,
      height: tall / height,
    }));
}
