/** Endings of photos that can become pages; what is in the file is looked at as well, and counts. */
export const PHOTO_ENDINGS: readonly string[] = [
  '.jpg',
  '.jpeg',
  '.png',
  '.webp',
  '.avif',
  '.gif',
  '.heic',
  '.heif',
  '.tif',
  '.tiff',
];

/** Folders and files that systems make for themselves, and nobody put there. */
const MADE_BY_SYSTEMS: ReadonlySet<string> = new Set(['__MACOSX', 'Thumbs.db', 'desktop.ini']);

/** Whether nobody put this into a folder or zip, as far as its path says; parts are parted by slashes. */
export const isHidden = (path: string): boolean =>
  path.split('/').some((part) => part.startsWith('.') || MADE_BY_SYSTEMS.has(part));

/** Whether a file in a folder or zip is a photo or PDF, as far as its name says. */
export function isTakenByName(path: string): boolean {
  const name = path.toLowerCase();
  return [...PHOTO_ENDINGS, '.pdf'].some((ending) => name.endsWith(ending));
}
