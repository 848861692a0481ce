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

/** The first part of a word that goes on in the next line: a compound has its hyphen within a line as well. */
const BROKEN_OFF = /^(.*\p{L}{2})[-\u00ad\u2010]$/u;
/** What goes on is written small; what is written large is a word of its own: Skerry-\nPoint. */
const GOES_ON = /^\p{Ll}{2}/u;

/**
 * The paragraphs of a page, in the order in which its words are read; its heading, where it surely has one, is one of them. A word
 * that a hyphen broke at the end of a line is one word, where its first part stands: it is searched for whole.
 */
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
  return found.map(({ isHeading, lines }) => ({ isHeading, words: wholeWords(lines) }));
}

function wholeWords(lines: readonly WordLine[]): PageWord[] {
  const words: PageWord[] = [];
  for (const { words: line } of lines) {
    const [first, ...others] = line;
    const begun = BROKEN_OFF.exec(words.at(-1)?.text ?? '')?.[1];
    if (begun !== undefined && GOES_ON.test(first!.text)) words.push({ ...words.pop()!, text: begun + first!.text });
    else words.push(first!);
    words.push(...others);
  }
  return words;
}

function goesOn(above: WordLine, line: WordLine): boolean {
  const [small, large] = [Math.min(above.height, line.height), Math.max(above.height, line.height)];
  const pitch = line.baseline - above.baseline;
  return pitch > 0 && pitch < PITCH * large && large < OTHER_SIZE * small;
}
