import sharp from 'sharp';
import { FotoplanError } from '../../core/errors';
import { checkPhotoFile } from '../../core/photo/checkPhotoFile';
import { pixelImageFrom, type PixelImage } from '../../core/raster/pixelImage';

/**
 * Decodes a JPEG, PNG or WebP to upright RGB; transparency falls on white.
 * @throws FotoplanError PHOTO_… as checkPhotoFile does, or PHOTO_UNREADABLE
 */
export async function decodePhoto(bytes: Uint8Array, name: string): Promise<PixelImage> {
  checkPhotoFile(bytes, name);
  try {
    const { data, info } = await sharp(bytes, { failOn: 'truncated' })
      .autoOrient()
      .flatten({ background: '#fff' })
      .toColourspace('srgb')
      .raw()
      .toBuffer({ resolveWithObject: true });
    const samples = new Uint8ClampedArray(data.buffer, data.byteOffset, data.length);
    return pixelImageFrom(info.width, info.height, info.channels as 1 | 3 | 4, samples);
  } catch (cause) {
    throw new FotoplanError('PHOTO_UNREADABLE', `“${name}” is damaged inside. Copy it from the phone again, or shoot the page again.`, { name }, { cause });
  }
}
