import type { Page } from '../../../core/work/hand-in/handIn';
import type { ReadLanguage } from '../../../core/work/words/readLanguages';
import type { PageWords } from '../../jobs/pageWords';

/** Only the upper part of a page has its heading. */
const HEAD_SHARE = 0.3;
const SAME_LINE = 0.6;
const LONGEST = 80;

/** What stands over page 1: its tallest line near the top, or null where none was read. */
export async function headingOf(page: Page, language: ReadLanguage, pageWords: PageWords): Promise<string | null> {
  const words = (await pageWords.of(page, language)).filter(({ y }) => y < HEAD_SHARE);
  const tallest = words.reduce((most, { height }) => Math.max(most, height), 0);
  const head = words.find(({ height, text }) => height > 0.75 * tallest && text.length > 1);
  if (head === undefined) return null;
  const line = words.filter(
    ({ y, height }) => Math.abs(y + height / 2 - (head.y + head.height / 2)) < SAME_LINE * head.height,
  );
  return line
    .sort((a, b) => a.x - b.x)
    .map(({ text }) => text)
    .join(' ')
    .slice(0, LONGEST);
}
