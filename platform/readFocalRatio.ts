import exifr from 'exifr/dist/lite.umd.js';

/** Cameras tell the focal length that would show as much on film this wide. */
const FILM_WIDTH_MM = 36;

/**
 * What a photo's file tells of its lens (EXIF's FocalLengthIn35mmFilm, in JPEG and HEIC).
 * @returns focal length over the photo's long side, or null where the file does not tell, or is no such file
 */
export async function readFocalRatio(file: Uint8Array<ArrayBuffer>): Promise<number | null> {
  try {
    const tags = (await exifr.parse(file, { exif: { pick: ['FocalLengthIn35mmFormat'] }, gps: false })) as
      { readonly FocalLengthIn35mmFormat?: unknown } | undefined;
    const mm = tags?.FocalLengthIn35mmFormat;
    return typeof mm === 'number' && mm > 0 ? mm / FILM_WIDTH_MM : null;
  } catch {
    // a damaged header tells nothing; whether the photo can be read is decided elsewhere
    return null;
  }
}
