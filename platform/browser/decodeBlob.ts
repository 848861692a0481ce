import { FotoplanError } from '../../core/errors';
import { pixelImageFrom, type PixelImage } from '../../core/raster/pixelImage';
import { openRareFormat } from './rareFormats/openRareFormat';
import { rareTypeOf } from './rareFormats/rareTypeOf';

/**
 * Decodes an original to upright RGBA on white, in a worker.
 * @param pdfPage - which page of a PDF, from 0; null for photos
 * @throws FotoplanError PHOTO_UNREADABLE or PDF_UNREADABLE
 */
export async function decodeBlob(blob: Blob, fileName: string, pdfPage: number | null): Promise<PixelImage> {
  const rare = rareTypeOf(new Uint8Array(await blob.slice(0, 12).arrayBuffer()));
  if (rare !== null) return openRareFormat(rare, new Uint8Array(await blob.arrayBuffer()), fileName, pdfPage);
  try {
    const bitmap = await createImageBitmap(blob, { imageOrientation: 'from-image' });
    const { width, height } = bitmap;
    const context = new OffscreenCanvas(width, height).getContext('2d', { willReadFrequently: true });
    if (context === null) throw new Error('no 2d context');
    context.fillStyle = '#fff';
    context.fillRect(0, 0, width, height);
    context.drawImage(bitmap, 0, 0);
    bitmap.close();
    return pixelImageFrom(width, height, 4, context.getImageData(0, 0, width, height).data);
  } catch (cause) {
    throw new FotoplanError('PHOTO_UNREADABLE', `“${fileName}” is damaged inside. Copy it from the phone again, or shoot the page again.`, { fileName }, { cause });
  }
}
