import { unzipSync, type UnzipFileInfo } from 'fflate';
import { FotoplanError } from '../../errors';
import { BUNDLE_INDEX } from './bundle';
import { PHOTO_LIMITS } from '../photo/checkPhotoFile';
import { isHidden, isTakenByName } from '../photo/takenByName';

/** Photos and PDFs are packed already; what unpacks to several times its size is made to fill memory. */
const MOST_GROWTH = 4;
const ALWAYS_FINE_BYTES = 20_000_000;

/** What a zip holds, by path, in the order in which its folders and files are named and numbered. */
export interface ZippedPhotos {
  readonly photos: readonly string[];
  /** Neither photo nor PDF by name, or larger than any may be. */
  readonly leftOut: readonly string[];
  /** Unpacks one of `photos`. @throws FotoplanError PHOTO_UNREADABLE where its bytes are spoilt */
  readonly unpack: (path: string) => Uint8Array<ArrayBuffer>;
}

/**
 * Looks into a zip, however deep its folders; a zip within it is left out.
 * @param name - the zip's, for the sentence
 * @throws FotoplanError ZIP_UNREADABLE where it is cut short or unpacks to far more than it is, ZIP_IS_EXPORT where it holds
 *   hand-ins, and NO_PHOTOS_INSIDE
 */
export function zippedPhotos(bytes: Uint8Array, name: string): ZippedPhotos {
  const unreadable = (cause?: unknown): FotoplanError =>
    new FotoplanError(
      'ZIP_UNREADABLE',
      `“${name}” is a zip that is damaged or incomplete. Copy it here again.`,
      { name },
      { cause },
    );
  const entries: UnzipFileInfo[] = [];
  try {
    unzipSync(bytes, {
      filter: (entry) => {
        if (!entry.name.endsWith('/') && !isHidden(entry.name)) entries.push(entry);
        return false;
      },
    });
  } catch (cause) {
    throw unreadable(cause);
  }
  if (entries.some((entry) => entry.name === BUNDLE_INDEX))
    throw new FotoplanError(
      'ZIP_IS_EXPORT',
      `“${name}” holds hand-ins that were exported. Import it in the settings.`,
      { name },
    );
  entries.sort((a, b) => a.name.localeCompare(b.name, 'en', { numeric: true }));
  const isTaken = (entry: UnzipFileInfo): boolean =>
    isTakenByName(entry.name) && entry.originalSize <= PHOTO_LIMITS.bytes;
  const taken = entries.filter(isTaken);
  if (taken.reduce((sum, entry) => sum + entry.originalSize, 0) > ALWAYS_FINE_BYTES + MOST_GROWTH * bytes.length)
    throw unreadable();
  if (taken.length === 0)
    throw new FotoplanError('NO_PHOTOS_INSIDE', `There is no photo and no PDF in “${name}”.`, { name });
  return {
    photos: taken.map((entry) => entry.name),
    leftOut: entries.filter((entry) => !isTaken(entry)).map((entry) => entry.name),
    unpack: (path) => {
      try {
        return unzipSync(bytes, { filter: (entry) => entry.name === path })[path]!;
      } catch (cause) {
        throw new FotoplanError(
          'PHOTO_UNREADABLE',
          `“${path}” is damaged in “${name}”. Copy the zip here again.`,
          { name: path },
          { cause },
        );
      }
    },
  };
}
