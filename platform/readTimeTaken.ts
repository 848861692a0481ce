import exifr from 'exifr/dist/lite.umd.js';

/**
 * When a photo was taken, as its file tells (EXIF's DateTimeOriginal, in JPEG and HEIC), by this device's clock: cameras
 * name no zone.
 * @returns ms since 1970, or null where the file does not tell, or is no such file
 */
export async function readTimeTaken(file: Uint8Array<ArrayBuffer>): Promise<number | null> {
  try {
    const tags = (await exifr.parse(file, { exif: { pick: ['DateTimeOriginal'] }, gps: false })) as
      { readonly DateTimeOriginal?: unknown } | undefined;
    const at = tags?.DateTimeOriginal;
    // a camera whose clock was never set writes noughts
    return at instanceof Date && at.getTime() > 0 ? at.getTime() : null;
  } catch {
    // a damaged header tells nothing; whether the photo can be read is decided elsewhere
    return null;
  }
}
