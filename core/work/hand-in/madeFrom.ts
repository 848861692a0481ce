import { sha256 } from '@noble/hashes/sha2';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils';
import { PLAIN_BINDING } from './bindSettings';
import { boundPages, type HandIn } from './handIn';

const known = new WeakMap<HandIn, string>();

/** SHA-256 of all that a hand-in's file depends on: another value means the file is out of date. Its name is given when it leaves. */
export function madeFromKey(handIn: HandIn): string {
  const kept = known.get(handIn);
  if (kept !== undefined) return kept;
  const { title, paper, binding } = handIn;
  const { marginMm, sameWidth, cover, searchable, language, showMarks, author, maxBytes } = binding;
  const key = bytesToHex(
    sha256(
      utf8ToBytes(
        JSON.stringify([
          title,
          paper,
          // files bound before there were languages stay up to date
          [
            marginMm,
            sameWidth,
            cover,
            searchable,
            showMarks,
            author,
            maxBytes,
            ...(language === PLAIN_BINDING.language ? [] : [language]),
          ],
          boundPages(handIn).map(({ originalId, pdfPage, recipe }) => [originalId, pdfPage, stable(recipe)]),
        ]),
      ),
    ),
  );
  known.set(handIn, key);
  return key;
}

/** A recipe that crossed the wire may have its fields in another order. */
const stable = (value: unknown): unknown =>
  Array.isArray(value)
    ? value.map(stable)
    : typeof value === 'object' && value !== null
      ? Object.entries(value)
          .sort(([a], [b]) => (a < b ? -1 : 1))
          .map(([name, each]) => [name, stable(each)])
      : value;
