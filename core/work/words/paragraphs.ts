import { headingLines } from './headingOf';
import type { PageWord } from './pageWord';
import { wordLines, type WordLine } from './wordLines';

/** Lines that follow each other within so many of their heights are of one paragraph. */
const PITCH = 2.4;
/** A line that is larger or smaller than the one above it by this factor begins another. */
const OTHER_SIZE = 1.4;

export interface Paragraph {
  readonly isHeading: boolean;
  readonly words: readonly PageWord[];
}

/** The paragraphs of a page, in the order in which its words are read; its heading, where it surely has one, is one of them. */
export function paragraphs(words: readonly PageWord[]): Paragraph[] {
  const heading = headingLines(words).map(({ words: [first] }) => first);
  const isOfHeading = (line: WordLine): boolean => heading.includes(line.words[0]);
  const found: { isHeading: boolean; lines: WordLine[] }[] = [];
  for (const line of wordLines(words)) {
    const last = found.at(-1);
    const isHeading = isOfHeading(line);
    if (last?.isHeading === isHeading && (isHeading || goesOn(last.lines.at(-1)!, line))) last.lines.push(line);
    else found.push({ isHeading, lines: [line] });
  }
  return found.map(({ isHeading, lines }) => ({ isHeading, words: lines.flatMap((line) => line.words) }));
}

function goesOn(above: WordLine, line: WordLine): boolean {
  const [small, large] = [Math.min(above.height, line.height), Math.max(above.height, line.height)];
  const pitch = line.baseline - above.baseline;
  return pitch > 0 && pitch < PITCH * large && large < OTHER_SIZE * small;
}
