/** The languages print can be read in, as ISO 639-1; the value is what the OCR engine calls the language. */
export const READ_LANGUAGES = { en: 'eng', es: 'spa', de: 'deu', ar: 'ara', fr: 'fra', pt: 'por' } as const;
export type ReadLanguage = keyof typeof READ_LANGUAGES;

/** Whether print in this language (BCP 47) can be read. */
export const isReadLanguage = (value: unknown): value is ReadLanguage =>
  typeof value === 'string' && Object.hasOwn(READ_LANGUAGES, value);
