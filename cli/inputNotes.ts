import type { MissingPart } from '../core/imaging/quality/missingPart';
import type { Forbidden } from '../core/work/pdf/openPdf';

/** What is said of a photo that breaks off: it was taken as far as it goes. Null where nothing is missing. */
export function missingNote(shownAs: string, missing: MissingPart | null): string | null {
  if (missing === null) return null;
  const { side, share } = missing;
  return `“${shownAs}” breaks off: ${Math.round(100 * share)} % of it is missing at the ${side}. Copy it from the phone again, or shoot the page again.`;
}

const FORBIDDEN_WORDS: Readonly<Record<Forbidden, string>> = {
  print: 'printed',
  change: 'changed',
  copy: 'copied from',
  annotate: 'written on',
};

/** What is said of a PDF whose owner forbids something; null where nothing is forbidden. */
export function forbidsNote(shownAs: string, forbids: readonly Forbidden[]): string | null {
  if (forbids.length === 0) return null;
  const list = new Intl.ListFormat('en', { type: 'disjunction' }).format(forbids.map((what) => FORBIDDEN_WORDS[what]));
  return `The owner of “${shownAs}” does not want it to be ${list}. The new file takes its pages as they are, and forbids nothing.`;
}

/** Says a note on standard error, where there is one. */
export function say(note: string | null): void {
  if (note !== null) process.stderr.write(`${note}\n`);
}
