import type { Mark } from '../marks/marks';
import { headingOf } from '../words/headingOf';
import type { PageWord } from '../words/pageWord';
import { isReadLanguage, type ReadLanguage } from '../words/readLanguages';

const PAGE: Readonly<Record<ReadLanguage, string>> = {
  en: 'Page',
  es: 'Página',
  de: 'Seite',
  ar: 'صفحة',
  fr: 'Page',
  pt: 'Página',
};
/** What is read of a page follows its picture: here it need only be known again. */
const MOST_WORDS = 12;

/**
 * What stands for a page's picture where it is not seen: its number, and what was written on it by the person, or read on it.
 * @param language - as BCP 47; English where there are no words in it
 */
export function figureText(
  number: number,
  language: string,
  { words, marks }: { readonly words: readonly PageWord[]; readonly marks: readonly Mark[] },
): string {
  const base = new Intl.Locale(language).language;
  const page = `${PAGE[isReadLanguage(base) ? base : 'en']} ${number}`;
  const notes = marks.flatMap((mark) => (mark.kind === 'note' ? [mark.text.replaceAll(/\s+/g, ' ').trim()] : []));
  const beginning = words.slice(0, MOST_WORDS).map(({ text }) => text);
  const read = headingOf(words) ?? (words.length > MOST_WORDS ? [...beginning, '…'] : beginning).join(' ');
  const says = [...notes, read].filter((each) => each !== '').join('. ');
  return says === '' ? page : `${page}: ${says}`;
}
