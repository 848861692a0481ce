import { setupI18n, type Messages } from '@lingui/core';
import { generateMessageId } from '@lingui/message-utils/generateMessageId';
import { messages as ar } from '../src/i18n/catalogues/ar';
import { messages as de } from '../src/i18n/catalogues/de';
import { messages as en } from '../src/i18n/catalogues/en';
import { messages as es } from '../src/i18n/catalogues/es';
import type { Language } from '../src/i18n/languages';

const CATALOGUES: Readonly<Record<Language, Messages>> = { en, es, de, ar };

/**
 * What the app says in a language, from what it says in English.
 * @returns a function of the English sentence, as it stands in the catalogues, and its values
 */
export function sentencesIn(language: Language): (english: string, values?: Record<string, unknown>) => string {
  const i18n = setupI18n({ locale: language, messages: { [language]: CATALOGUES[language] } });
  return (english, values) => {
    const id = generateMessageId(english);
    if (CATALOGUES[language][id] === undefined) throw new Error(`“${english}” is in no catalogue.`);
    return i18n._(id, values);
  };
}
