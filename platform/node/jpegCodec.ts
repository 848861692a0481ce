import sharp from 'sharp';
import type { JpegCodec } from '../../core/imaging/layers/codedPage';
import { pixelImageFrom } from '../../core/imaging/raster/pixelImage';

/** Baseline JPEGs by mozjpeg. */
export const jpegCodec: JpegCodec = {
  encode: async ({ width, height, channels, data }, quality) =>
    new Uint8Array(
      await sharp(data, { raw: { width, height, channels } })
        .jpeg({ quality: Math.round(100 * quality), mozjpeg: true })
        .toBuffer(),
    ),
  async decode(jpeg) {
    const { data, info } = await sharp(jpeg).raw().toBuffer({ resolveWithObject: true });
    const samples = new Uint8ClampedArray(data.buffer, data.byteOffset, data.length);
    return pixelImageFrom(info.width, info.height, info.channels as 1 | 3, samples);
  },
};
