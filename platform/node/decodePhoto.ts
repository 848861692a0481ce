import sharp, { type Sharp } from 'sharp';
import { FotoplanError } from '../../core/errors';
import { checkPhotoFile, type OriginalType } from '../../core/work/photo/checkPhotoFile';
import { endedJpeg } from '../../core/work/photo/jpegEnd';
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

/** The fourth byte of a BMP's pixels is left empty by most programs, and means nothing. */
async function decodeBmp(bytes: Uint8Array): Promise<Sharp> {
  const { decode } = await import('bmp-ts');
  const { width, height, data } = decode(Buffer.from(bytes), { toRGBA: true });
  for (let k = 3; k < data.length; k += 4) data[k] = 255;
  return sharp(data, { raw: { width, height, channels: 4 } });
}

const openPicture = async (bytes: Uint8Array, type: OriginalType): Promise<Sharp> => {
  if (type === 'image/jxl') return (await import('./decodeJpegXl')).decodeJpegXl(bytes);
  if (type === 'image/bmp') return decodeBmp(bytes);
  return sharp(endedJpeg(bytes), { failOn: 'truncated' }).autoOrient();
};

/**
 * Decodes a JPEG (one that breaks off as far as it goes), PNG, WebP, AVIF, JPEG XL, GIF (its first frame), BMP, TIFF or HEIC to upright RGB; transparency falls on white.
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
    const picture = await openPicture(bytes, type);
    const { data, info } = await picture
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
