import { FotoplanError } from '../../core/errors';
import { pixelImageFrom, type PixelImage } from '../../core/raster/pixelImage';

/**
 * Decodes a photo to upright RGBA on white, in a worker.
 * @throws FotoplanError PHOTO_UNREADABLE
 */
export async function decodeBlob(blob: Blob, fileName: string): Promise<PixelImage> {
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
