import { isReadLanguage, type ReadLanguage } from '../words/readLanguages';
import { isNamePattern, type NamePattern } from '../naming/namePattern';

/** How a hand-in is bound, beside its paper. */
export interface BindSettings {
  readonly marginMm: number;
  readonly sameWidth: boolean;
  readonly cover: boolean;
  /** Words are read and laid under the pages. */
  readonly searchable: boolean;
  /** What the pages are written in: print is read by it, and the file says so. */
  readonly language: ReadLanguage;
  readonly showMarks: boolean;
  /** The author's name is told in the file. */
  readonly author: boolean;
  readonly maxBytes: number | null;
  /** Null names the file by the title. */
  readonly name: NamePattern | null;
}

export const PLAIN_BINDING: BindSettings = {
  marginMm: 0,
  sameWidth: false,
  cover: false,
  searchable: false,
  language: 'en',
  showMarks: true,
  author: false,
  maxBytes: null,
  name: null,
};

/** What a course office and a mailbox commonly allow. */
export const LIMIT_CHOICES = [null, 1_000_000, 2_000_000, 5_000_000, 10_000_000, 20_000_000] as const;
export const LEAST_LIMIT_BYTES = 20_000;
export const MOST_MARGIN_MM = 30;

/** Settings as they stand in a zip or an earlier version's store: what is missing, or cannot be, takes its default. */
export function readBindSettings(stored: unknown): BindSettings {
  const { marginMm, maxBytes, name, language, ...rest } = (
    typeof stored === 'object' && stored !== null ? stored : {}
  ) as Partial<BindSettings>;
  const flag = (key: 'sameWidth' | 'cover' | 'searchable' | 'showMarks' | 'author'): boolean =>
    typeof rest[key] === 'boolean' ? rest[key] : PLAIN_BINDING[key];
  return {
    marginMm: typeof marginMm === 'number' && marginMm >= 0 && marginMm <= MOST_MARGIN_MM ? marginMm : 0,
    sameWidth: flag('sameWidth'),
    cover: flag('cover'),
    searchable: flag('searchable'),
    language: isReadLanguage(language) ? language : PLAIN_BINDING.language,
    showMarks: flag('showMarks'),
    author: flag('author'),
    maxBytes: Number.isInteger(maxBytes) && maxBytes! >= LEAST_LIMIT_BYTES && maxBytes! <= 2e9 ? maxBytes! : null,
    name: isNamePattern(name) ? name : null,
  };
}
