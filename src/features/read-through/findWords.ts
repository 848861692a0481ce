import { shownPages, type HandIn } from '../../../core/work/hand-in/handIn';
import type { PageWord } from '../../../core/work/words/pageWord';
import { wordsKey, type WordsState } from '../../jobs/pageWords';

export interface Hit {
  readonly pageId: string;
  readonly words: readonly PageWord[];
}

const plain = (text: string): string => text.normalize('NFKD').replace(/\p{M}/gu, '').toLowerCase();

/** Words in which something occurs, page by page; what was not read yet has none. */
export function findWords(handIn: HandIn, sought: string, words: WordsState['words']): readonly Hit[] {
  const wanted = plain(sought.trim());
  if (wanted === '') return [];
  return shownPages(handIn).flatMap((page) => {
    const found = (words[wordsKey(page, handIn.binding.language)] ?? []).filter(({ text }) =>
      plain(text).includes(wanted),
    );
    return found.length === 0 ? [] : [{ pageId: page.id, words: found }];
  });
}
