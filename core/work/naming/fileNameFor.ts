/** Longest name without its ending; with it, it fits every file system in use. */
const LONGEST = 100;

/**
 * A file name for a title that every file system takes: normalised (NFC), without control characters, path separators or
 * what Windows forbids, never empty, never too long.
 */
export function fileNameFor(title: string): string {
  const cut = Array.from(safeName(title)).slice(0, LONGEST).join('').trim();
  return `${cut === '' ? 'Pages' : cut}.pdf`;
}

/** The same without an ending and of any length; empty where nothing of it can be used. */
export const safeName = (text: string): string =>
  text
    .normalize('NFC')

    .replace(/[\u0000-\u001f\u007f<>:"/\\|?*]+/g, ' ')
    .replace(/\s+/g, ' ')
    .replace(/^[.\s]+|[.\s]+$/g, '');
