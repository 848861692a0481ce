import type { PageWord } from './boundPage';

/** What an OCR engine says of a page, as far as it is used: boxes in px. */
export interface ReadBlock {
  readonly paragraphs: readonly {
    readonly lines: readonly {
      readonly words: readonly {
        readonly text: string;
        readonly confidence: number;
        readonly bbox: { readonly x0: number; readonly y0: number; readonly x1: number; readonly y1: number };
      }[];
    }[];
  }[];
}

/** Below this a word is a guess: what cannot be read must do no harm to a search. */
const LEAST_CONFIDENCE = 45;

/**
 * The words that were read well enough to be searched for, in reading order.
 * @param width - of the picture that was read, in px, as height is
 */
export function wordsOf(blocks: readonly ReadBlock[] | null, width: number, height: number): PageWord[] {
  return (blocks ?? []).flatMap((block) =>
    block.paragraphs.flatMap((paragraph) =>
      paragraph.lines.flatMap((line) =>
        line.words
          .filter(({ text, confidence }) => confidence >= LEAST_CONFIDENCE && /[\p{L}\p{N}]/u.test(text))
          .map(({ text, bbox: { x0, y0, x1, y1 } }) => ({
            text,
            x: x0 / width,
            y: y0 / height,
            width: (x1 - x0) / width,
            height: (y1 - y0) / height,
          })),
      ),
    ),
  );
}
