import sharp from 'sharp';
import { FotoplanError } from '../../core/errors';
import { checkPhotoFile } from '../../core/work/photo/checkPhotoFile';
import { displayP3ToSrgb, isDisplayP3 } from '../../core/work/photo/displayP3';
import { pixelImageFrom, type PixelImage } from '../../core/imaging/raster/pixelImage';

/** libheif turns the picture upright itself. */
async function decodeHeic(bytes: Uint8Array): Promise<PixelImage> {
  const { default: decode } = await import('heic-decode');
  const { width, height, data } = await decode({ buffer: bytes });
  const samples = new Uint8ClampedArray(data.buffer as ArrayBuffer, data.byteOffset, data.length);
  const stored = pixelImageFrom(width, height, 4, samples);
  return isDisplayP3(bytes) ? displayP3ToSrgb(stored) : stored;
}

/**
 * Decodes a JPEG, PNG, WebP, AVIF, GIF (its first frame), TIFF or HEIC to upright RGB; transparency falls on white.
 * @throws FotoplanError PHOTO_… as checkPhotoFile does, or PHOTO_UNREADABLE
 */
export async function decodePhoto(bytes: Uint8Array, name: string): Promise<PixelImage> {
  const { type } = checkPhotoFile(bytes, name);
  if (type === 'application/pdf')
    throw new FotoplanError(
      'PHOTO_IS_PDF',
      `“${name}” is a PDF. Bind takes it as it is; for anything else give photos.`,
      { name },
    );
  try {
    if (type === 'image/heic') return await decodeHeic(bytes);
    const { data, info } = await sharp(bytes, { failOn: 'truncated' })
      .autoOrient()
      .flatten({ background: '#fff' })
      .toColourspace('srgb')
      .raw()
      .toBuffer({ resolveWithObject: true });
    const samples = new Uint8ClampedArray(data.buffer, data.byteOffset, data.length);
    return pixelImageFrom(info.width, info.height, info.channels as 1 | 3 | 4, samples);
  } catch (cause) {
    throw new FotoplanError(
      'PHOTO_UNREADABLE',
      `“${name}” is damaged inside. Copy it from the phone again, or shoot the page again.`,
      { name },
      { cause },
    );
  }
}
