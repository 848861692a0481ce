import type { ReadLanguage } from '../words/readLanguages';

export interface CoverLabels {
  readonly name: string;
  readonly number: string;
  readonly date: string;
  readonly pages: string;
}

const ENGLISH: CoverLabels = { name: 'Name', number: 'Number', date: 'Date', pages: 'Pages' };

/** What stands before each line of a cover sheet. The cover's font has no Arabic letters: there it is English. */
export const COVER_LABELS: Readonly<Record<ReadLanguage, CoverLabels>> = {
  en: ENGLISH,
  es: { name: 'Nombre', number: 'Número', date: 'Fecha', pages: 'Páginas' },
  de: { name: 'Name', number: 'Nummer', date: 'Datum', pages: 'Seiten' },
  ar: ENGLISH,
  fr: { name: 'Nom', number: 'Numéro', date: 'Date', pages: 'Pages' },
  pt: { name: 'Nome', number: 'Número', date: 'Data', pages: 'Páginas' },
};
