import { packRgb } from '../../core/raster/packRgb';
import { createPixelImage, type PixelImage } from '../../core/raster/pixelImage';
import { releaseBuffers } from '../../core/raster/releaseBuffers';

/** A bitmap is read in strips: whole, four bytes a pixel, it would be there once more. */
const STRIP_ROWS = 256;

/** A bitmap's pixels as RGB on white, in a worker; closes it. */
export async function readBitmap(bitmap: ImageBitmap): Promise<PixelImage> {
  try {
    return (await readFrame(bitmap)) ?? readCanvas(bitmap);
  } finally {
    bitmap.close();
  }
}

/** Through a video frame, whose pixels are copied straight into the same few bytes again and again. @returns null where there is no such thing, or something shines through */
async function readFrame(bitmap: ImageBitmap): Promise<PixelImage | null> {
  if (typeof VideoFrame === 'undefined') return null;
  const frame = new VideoFrame(bitmap, { timestamp: 0 });
  try {
    const { format } = frame;
    if (format !== 'RGBX' && format !== 'BGRX') return null;
    const { width, height } = bitmap;
    const image = createPixelImage(width, height, 3);
    const strip = new Uint8ClampedArray(4 * width * Math.min(height, STRIP_ROWS));
    for (let top = 0; top < height; top += STRIP_ROWS) {
      const rows = Math.min(STRIP_ROWS, height - top);
      const pixels = strip.subarray(0, 4 * width * rows);
      await frame.copyTo(pixels, { rect: { x: 0, y: top, width, height: rows } });
      packRgb(pixels, image.data, 3 * top * width, format === 'RGBX' ? 'rgba' : 'bgra');
    }
    releaseBuffers(strip);
    return image;
  } finally {
    frame.close();
  }
}

/** Through a canvas: every strip read is new memory, which the browser clears up when it likes. */
function readCanvas(bitmap: ImageBitmap): PixelImage {
  const { width, height } = bitmap;
  const image = createPixelImage(width, height, 3);
  const rows = Math.min(height, STRIP_ROWS);
  const context = new OffscreenCanvas(width, rows).getContext('2d', { willReadFrequently: true });
  if (context === null) throw new Error('no 2d context');
  for (let top = 0; top < height; top += rows) {
    context.fillStyle = '#fff';
    context.fillRect(0, 0, width, rows);
    context.drawImage(bitmap, 0, -top);
    packRgb(context.getImageData(0, 0, width, Math.min(rows, height - top)).data, image.data, 3 * top * width);
  }
  return image;
}
