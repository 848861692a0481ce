import { FotoplanError } from '../../core/errors';
import { packRgb } from '../../core/raster/packRgb';
import { createPixelImage, type PixelImage } from '../../core/raster/pixelImage';
import { releaseBuffer } from '../../core/raster/releaseBuffer';
import { openRareFormat } from './rareFormats/openRareFormat';
import { rareTypeOf } from './rareFormats/rareTypeOf';

const STRIP_ROWS = 256;

/**
 * Decodes an original to upright RGB on white, in a worker.
 * @param pdfPage - which page of a PDF, from 0; null for photos
 * @param onDecoded - called once the browser has decoded a photo and it only has to be read
 * @throws FotoplanError PHOTO_UNREADABLE or PDF_UNREADABLE
 */
export async function decodeBlob(blob: Blob, fileName: string, pdfPage: number | null, onDecoded: () => void = () => undefined): Promise<PixelImage> {
  const rare = rareTypeOf(new Uint8Array(await blob.slice(0, 12).arrayBuffer()));
  if (rare !== null) return openRareFormat(rare, new Uint8Array(await blob.arrayBuffer()), fileName, pdfPage);
  try {
    return await oneAtATime(() => readBitmap(blob, onDecoded));
  } catch (cause) {
    throw new FotoplanError('PHOTO_UNREADABLE', `“${fileName}” is damaged inside. Copy it from the phone again, or shoot the page again.`, { fileName }, { cause });
  }
}

/** The browser holds a photo more than once while it decodes it: workers of this site take turns, where it lets them agree. */
async function oneAtATime(work: () => Promise<PixelImage>): Promise<PixelImage> {
  const { locks } = navigator as { locks?: LockManager };
  return locks === undefined ? work() : await locks.request('fotoplan-decode', work);
}

async function readBitmap(blob: Blob, onDecoded: () => void): Promise<PixelImage> {
  const bitmap = await createImageBitmap(blob, { imageOrientation: 'from-image' });
  onDecoded();
  const { width, height } = bitmap;
  const image = createPixelImage(width, height, 3);
  // a canvas as large as the photo would hold it once more
  const rows = Math.min(height, STRIP_ROWS);
  const context = new OffscreenCanvas(width, rows).getContext('2d', { willReadFrequently: true });
  if (context === null) throw new Error('no 2d context');
  for (let top = 0; top < height; top += rows) {
    context.fillStyle = '#fff';
    context.fillRect(0, 0, width, rows);
    context.drawImage(bitmap, 0, -top);
    const strip = context.getImageData(0, 0, width, Math.min(rows, height - top)).data;
    packRgb(strip, image.data, top * width * 3);
    releaseBuffer(strip.buffer);
  }
  bitmap.close();
  return image;
}
