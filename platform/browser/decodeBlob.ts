import { FotoplanError } from '../../core/errors';
import { checkPhotoFile } from '../../core/work/photo/checkPhotoFile';
import { endedJpeg } from '../../core/work/photo/jpegEnd';
import type { PixelImage } from '../../core/imaging/raster/pixelImage';
import { releaseBuffers } from '../../core/imaging/raster/releaseBuffers';
import { storageError } from './keptBytes/storageError';
import { openRareFormat } from './rareFormats/openRareFormat';
import { rareTypeOf } from './rareFormats/rareTypeOf';
import { readBitmap } from './readBitmap';

/**
 * Decodes an original to upright RGB on white, in a worker.
 * @param pdfPage - which page of a PDF, from 0; null for photos
 * @throws FotoplanError PHOTO_UNREADABLE or PDF_UNREADABLE; STORAGE_… where its bytes could not be read
 */
export const decodeBlob = (blob: Blob, fileName: string, pdfPage: number | null): Promise<PixelImage> =>
  oneAtATime(() => decode(blob, fileName, pdfPage));

/**
 * Decodes like decodeBlob for what needs the photo but for a moment: no other worker decodes meanwhile, and its memory is
 * given back at once.
 * @param onDecoded - called once the browser has decoded a photo and it only has to be read
 */
export const lendDecoded = <T>(
  blob: Blob,
  fileName: string,
  pdfPage: number | null,
  use: (photo: PixelImage) => T,
  onDecoded?: () => void,
): Promise<T> =>
  oneAtATime(async () => {
    const photo = await decode(blob, fileName, pdfPage, onDecoded);
    const made = use(photo);
    releaseBuffers(photo.data);
    return made;
  });

/** A photo is large, and the browser holds it more than once while it decodes it: workers of this site take turns, where it lets them agree. */
async function oneAtATime<T>(work: () => Promise<T>): Promise<T> {
  const { locks } = navigator as { locks?: LockManager };
  return locks === undefined ? work() : await locks.request('fotoplan-decode', work);
}

async function decode(
  blob: Blob,
  fileName: string,
  pdfPage: number | null,
  onDecoded: () => void = () => undefined,
): Promise<PixelImage> {
  const rare = rareTypeOf(new Uint8Array(await blob.slice(0, 12).arrayBuffer()));
  if (rare !== null) return openRareFormat(rare, new Uint8Array(await blob.arrayBuffer()), fileName, pdfPage);
  try {
    const { orientation, source } = await readyToDecode(blob, fileName);
    const bitmap = await createImageBitmap(source, { imageOrientation: 'from-image' });
    onDecoded();
    return await readBitmap(bitmap, orientation);
  } catch (cause) {
    // the browser says the same of a photo that it cannot decode and of one that it cannot read just now
    await blob
      .slice(0, 1)
      .arrayBuffer()
      .catch((error: unknown) => {
        throw storageError(error);
      });
    throw new FotoplanError(
      'PHOTO_UNREADABLE',
      `“${fileName}” is damaged inside. Copy it from the phone again, or shoot the page again.`,
      { fileName },
      { cause },
    );
  }
}

/** A photo as the browser takes it: one that breaks off has an end. */
async function readyToDecode(blob: Blob, fileName: string): Promise<{ orientation: number; source: Blob }> {
  const bytes = new Uint8Array(await blob.arrayBuffer());
  const { orientation } = checkPhotoFile(bytes, fileName);
  const ended = endedJpeg(bytes);
  const source = ended === bytes ? blob : new Blob([ended]);
  releaseBuffers(bytes);
  return { orientation, source };
}
