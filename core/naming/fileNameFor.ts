/** Longest name without its ending; with it, it fits every file system in use. */
const LONGEST = 100;

/**
 * A file name for a title that every file system takes: normalised (NFC), without control characters, path separators or
 * what Windows forbids, never empty, never too long.
 */
export function fileNameFor(title: string): string {
  const safe = title
    .normalize('NFC')
     
    .replace(/[\u0000-\u001f\u007f<>:"/\\|?*]+/g, ' ')
    .replace(/\s+/g, ' ')
    .replace(/^[.\s]+|[.\s]+$/g, '');
  const cut = Array.from(safe).slice(0, LONGEST).join('').trim();
  return `${cut === '' ? 'Pages' : cut}.pdf`;
}
