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
  /** Neither photo nor PDF by name. */
  readonly leftOut: readonly string[];
  /** Unpacks one of `photos`. @throws FotoplanError PHOTO_TOO_LARGE, before unpacking it, or PHOTO_UNREADABLE where it is spoilt */
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
  const taken = entries.filter((entry) => isTakenByName(entry.name));
  const tooLarge = new Map(
    taken
      .filter(({ originalSize }) => originalSize > PHOTO_LIMITS.bytes)
      .map(({ name: path, originalSize }): [string, number] => [path, originalSize]),
  );
  const unpacked = taken.reduce((sum, entry) => sum + (tooLarge.has(entry.name) ? 0 : entry.originalSize), 0);
  if (unpacked > ALWAYS_FINE_BYTES + MOST_GROWTH * bytes.length) throw unreadable();
  if (taken.length === 0)
    throw new FotoplanError('NO_PHOTOS_INSIDE', `There is no photo and no PDF in “${name}”.`, { name });
  return {
    photos: taken.map((entry) => entry.name),
    leftOut: entries.filter((entry) => !isTakenByName(entry.name)).map((entry) => entry.name),
    unpack: (path) => {
      const size = tooLarge.get(path);
      if (size !== undefined)
        throw new FotoplanError(
          'PHOTO_TOO_LARGE',
          `“${path}” has ${Math.round(size / 1e6)} MB; a photo may have ${PHOTO_LIMITS.bytes / 1e6} MB. Save it as a JPEG.`,
          { name: path, bytes: size },
        );
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
