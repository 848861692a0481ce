import type { PixelBox } from '../../imaging/layers/pixelBox';
import { readingOrder, type PlacedWord } from './readingOrder';
import type { PageWord } from './pageWord';

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

/** What was read in a part of a page that was read for itself, and where that is, px. */
export interface ReadBox {
  readonly blocks: readonly ReadBlock[] | null;
  readonly at: PixelBox;
}

/**
 * The words that were read well enough to be searched for, in reading order, each line on one baseline and in one size.
 * @param blocks - what was read on the whole page
 * @param boxes - what was read in parts of it: where that is anything, what was read there with the whole page counts for nothing
 * @param width - of the picture that was read, in px, as height is
 */
export function wordsOf(
  blocks: readonly ReadBlock[] | null,
  boxes: readonly ReadBox[],
  width: number,
  height: number,
): PageWord[] {
  const read = boxes
    .map((box) => ({ at: box.at, words: placedWords(box.blocks) }))
    .filter(({ words }) => words.length > 0);
  const onPage = placedWords(blocks).filter((word) => !read.some(({ at }) => isIn(word, at)));
  const inBoxes = read.flatMap(({ at, words }, k) =>
    words.map((word): PlacedWord => ({
      ...word,
      x0: word.x0 + at.x,
      x1: word.x1 + at.x,
      baseline: word.baseline + at.y,
      // pieces of the page have numbers from 0
      piece: -(1 + k + read.length * word.piece),
    })),
  );
  return readingOrder([...onPage, ...inBoxes])
    .flat()
    .map(({ text, x0, x1, baseline, tall, confidence }) => ({
      text,
      x: x0 / width,
      y: (baseline - tall) / height,
      width: (x1 - x0) / width,
      height: tall / height,
      confidence,
    }));
}

function isIn({ x0, x1, baseline, tall }: PlacedWord, { x, y, width, height }: PixelBox): boolean {
  const [middle, centre] = [(x0 + x1) / 2, baseline - tall / 2];
  return middle >= x && middle < x + width && centre >= y && centre < y + height;
}

function placedWords(blocks: readonly ReadBlock[] | null): PlacedWord[] {
  const lines = (blocks ?? []).flatMap((block) => block.paragraphs.flatMap((paragraph) => paragraph.lines));
  return lines.flatMap(({ words, baseline, rowAttributes }, piece): PlacedWord[] => {
    const slope = (baseline.y1 - baseline.y0) / Math.max(1, baseline.x1 - baseline.x0);
    return words
      .filter(({ text, confidence }) => confidence >= LEAST_CONFIDENCE && /[\p{L}\p{N}]/u.test(text))
      .map(({ text, confidence, bbox: { x0, x1 } }) => ({
        text,
        confidence: confidence / 100,
        x0,
        x1,
        baseline: baseline.y0 + slope * ((x0 + x1) / 2 - baseline.x0),
        tall: Math.max(1, rowAttributes.rowHeight - Math.abs(rowAttributes.descenders)),
        piece,
      }));
  });
}
