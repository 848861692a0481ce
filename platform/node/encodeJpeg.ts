import sharp from 'sharp';
import type { EncodeJpeg } from '../../core/imaging/layers/codedPage';

/** Baseline JPEG by mozjpeg. */
export const encodeJpeg: EncodeJpeg = async ({ width, height, channels, data }, quality) =>
  new Uint8Array(
    await sharp(data, { raw: { width, height, channels } })
      .jpeg({ quality: Math.round(100 * quality), mozjpeg: true })
      .toBuffer(),
  );
