import { i18n, type Messages } from '@lingui/core';
import type { ReadLanguage } from '../../core/work/words/readLanguages';

export const LANGUAGES = ['en', 'es', 'de', 'ar'] as const;
export type Language = (typeof LANGUAGES)[number];

/** Each in its own words, so that its readers find it whatever is set. */
export const LANGUAGE_NAMES: Readonly<Record<Language | ReadLanguage, string>> = {
  en: 'English',
  es: 'Español',
  de: 'Deutsch',
  ar: 'العربية',
  fr: 'Français',
  pt: 'Português',
};

/** What `Intl` writes numbers and dates by. Arabic keeps the digits that stand on the pages and in the files' names. */
const FORMATS: Readonly<Record<Language, string>> = { en: 'en-GB', es: 'es', de: 'de', ar: 'ar-u-nu-latn' };

export const directionOf = (language: Language): 'ltr' | 'rtl' => (language === 'ar' ? 'rtl' : 'ltr');

/** The first of the device's languages that the app speaks, English where it speaks none. */
export function languageFor(preferred: readonly string[]): Language {
  const known = preferred
    .map((tag) => LANGUAGES.find((language) => tag.toLowerCase().split('-')[0] === language))
    .find((language) => language !== undefined);
  return known ?? 'en';
}

const CATALOGUES: Readonly<Record<Language, () => Promise<{ readonly messages: Messages }>>> = {
  en: () => import('./catalogues/en'),
  es: () => import('./catalogues/es'),
  de: () => import('./catalogues/de'),
  ar: () => import('./catalogues/ar'),
};

/** Fetches a language's sentences and uses them from now on. */
export async function activateLanguage(language: Language): Promise<void> {
  const { messages } = await CATALOGUES[language]();
  i18n.loadAndActivate({ locale: language, locales: [FORMATS[language]], messages });
}

/** What `Intl` is to write by: the active language's. */
export const activeLanguage = (): Language => LANGUAGES.find((language) => language === i18n.locale) ?? 'en';

export const formatLocale = (): string => FORMATS[activeLanguage()];
