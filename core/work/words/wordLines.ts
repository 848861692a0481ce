import type { PageWord } from './pageWord';

/** Words on one baseline, in heights. */
const SAME_LINE = 0.4;

export interface WordLine {
  readonly words: readonly PageWord[];
  readonly text: string;
  /** Of its first word, as a share of the page's height. */
  readonly height: number;
  readonly baseline: number;
}

/** The lines of a page, in the order in which its words are read. */
export function wordLines(words: readonly PageWord[]): WordLine[] {
  const lines: PageWord[][] = [];
  for (const word of words) {
    const line = lines.at(-1);
    const before = line?.at(-1);
    const isSame =
      before !== undefined &&
      Math.abs(word.y + word.height - before.y - before.height) < SAME_LINE * Math.max(word.height, before.height);
    if (isSame) line!.push(word);
    else lines.push([word]);
  }
  return lines.map((line) => ({
    text: line.map(({ text }) => text).join(' '),
    words: line,
    height: line[0]!.height,
    baseline: line[0]!.y + line[0]!.height,
  }));
}
