import { quantile } from '../../imaging/raster/quantile';
import type { PageWord } from './pageWord';
import { wordLines, type WordLine } from './wordLines';

/** Only the upper part of a page has its heading. */
const HEAD_SHARE = 0.3;
/** A heading is larger than most of what stands on the page by this factor, */
const LARGER = 1.15;
/** or more space is below it than between its own lines, or the page's, by this one; */
const APART = 1.35;
/** or so many of its heights. */
const FAR_APART = 4;
/** Lines that follow each other within so many heights of the first are of one block. */
const BLOCK = 2.2;
/** A word that is less sure would put nonsense into a name; of 23 pages the sure ones were right. */
const LEAST_CONFIDENCE = 0.8;
/** Between words there is less space, in heights: where more is, a word between them could not be read, or it is a form. */
const MOST_SPACE = 1.2;
const MOST_WORDS = 12;
const LONGEST = 80;
/** What names a school is on all of its papers. */
const SCHOOL =
  /\b(academy|college|department|faculty|institute|school|university|akademie|fachbereich|fakultät|hochschule|institut|schule|universität|colegio|departamento|escuela|facultad|instituto|universidad)\b|كلية|مدرسة|معهد|جامعة/iu;

/** What stands over a page, as one text; null where there is nothing, or where it was not surely read. */
export function headingOf(words: readonly PageWord[]): string | null {
  const lines = headingLines(words);
  if (lines.length === 0) return null;
  return lines
    .map(({ text }) => text)
    .join(' ')
    .slice(0, LONGEST);
}

/**
 * What stands over a page: its first line that is set apart by size or space, and the next where it goes on; not the name of
 * the school above it.
 * @param words - of the page, in reading order
 * @returns none where there is nothing, or where it was not surely read
 */
export function headingLines(words: readonly PageWord[]): readonly WordLine[] {
  const lines = wordLines(words).sort((p, q) => p.baseline - q.baseline);
  if (lines.length === 0) return [];
  const usual = quantile(
    words.map(({ height }) => height),
    0.5,
    0,
  );
  const pitch = quantile(
    lines.slice(1).map(({ baseline }, k) => baseline - lines[k]!.baseline),
    0.5,
    0,
  );
  const top = lines.findIndex(({ text, baseline }) => baseline < HEAD_SHARE && /\p{L}{3}/u.test(text));
  if (top === -1) return [];
  const block = blockFrom(lines, top);
  const after = lines[top + block.length];
  const inner = block.length > 1 ? block[1]!.baseline - block[0]!.baseline : pitch;
  const below = after === undefined ? Infinity : after.baseline - block.at(-1)!.baseline;
  const isApart = below > Math.min(APART * inner, FAR_APART * block[0]!.height);
  if (!isApart && block[0]!.height < LARGER * usual) return [];
  const [first, second] = SCHOOL.test(block[0]!.text) ? block.slice(1) : block;
  if (first === undefined || !isSure(first)) return [];
  // a long heading goes on in the same size
  const goesOn =
    second !== undefined &&
    first.height > LARGER * usual &&
    second.height > LARGER * usual &&
    Math.abs(second.height - first.height) < 0.1 * first.height &&
    isSure(second);
  return goesOn ? [first, second] : [first];
}

/** A line and those that follow it closely, three at most. */
function blockFrom(lines: readonly WordLine[], top: number): WordLine[] {
  const block = [lines[top]!];
  for (const line of lines.slice(top + 1, top + 3)) {
    const before = block.at(-1)!;
    if (line.baseline - before.baseline > BLOCK * block[0]!.height) break;
    block.push(line);
  }
  return block;
}

/** Whole, and read without a doubt. */
function isSure({ text, words }: WordLine): boolean {
  if (words.length > MOST_WORDS || /[,;–—-]$/u.test(text) || !/^[\p{L}\p{N}]/u.test(text)) return false;
  return words.every(({ x, width, height, confidence }, k) => {
    const next = words[k + 1];
    // shares of the height are longer than shares of the width
    const space =
      next === undefined ? 0 : Math.max(next.x - x - width, x - next.x - next.width) / (Math.SQRT2 * height);
    return confidence >= LEAST_CONFIDENCE && space <= MOST_SPACE;
  });
}
