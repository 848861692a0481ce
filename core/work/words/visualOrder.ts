/** Letters that are written from the right: Hebrew, Arabic and their presentation forms (Unicode bidi classes R and AL). */
const FROM_RIGHT = /[\u0590-\u08ff\ufb1d-\ufdff\ufe70-\ufeff]/u;
/** Numbers, with what stands inside of them, and words of another script keep their own direction. */
const KEPT = /[\p{Nd}.,:/٫٬-]*\p{Nd}|[\p{Script=Latin}\p{Script=Greek}\p{Script=Cyrillic}\p{M}]+/uy;

/**
 * A word as its signs stand on paper from the left, which is how PDF text is written; readers of the file turn it back. A word
 * without letters written from the right is given back as it is.
 *
 * @param word - in the order in which it is spoken
 */
export function visualOrder(word: string): string {
  if (!FROM_RIGHT.test(word)) return word;
  const pieces: string[] = [];
  for (let at = 0; at < word.length;) {
    KEPT.lastIndex = at;
    const kept = KEPT.exec(word)?.[0];
    const piece = kept ?? String.fromCodePoint(word.codePointAt(at)!);
    pieces.push(piece);
    at += piece.length;
  }
  return pieces.reverse().join('');
}
