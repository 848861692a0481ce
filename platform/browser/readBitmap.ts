import { packRgb, packTurned } from '../../core/imaging/raster/packRgb';
import { createPixelImage, type PixelImage } from '../../core/imaging/raster/pixelImage';
import { releaseBuffers } from '../../core/imaging/raster/releaseBuffers';

/** A bitmap is read in strips: whole, four bytes a pixel, it would be there once more. */
const STRIP_ROWS = 256;

/**
 * A bitmap's pixels as RGB on white, upright, in a worker; closes it.
 * @param orientation - how the file says it is to be turned (EXIF, 1 to 8); the bitmap's size is as turned
 */
export async function readBitmap(bitmap: ImageBitmap, orientation: number): Promise<PixelImage> {
  try {
    // a browser that knows frames but cannot copy them still has its canvas: no photo is lost for that
    return (await readFrame(bitmap, orientation).catch(() => null)) ?? readCanvas(bitmap);
  } finally {
    bitmap.close();
  }
}

/**
 * Through a video frame, whose pixels are copied straight into the same few bytes again and again. A frame has them as the file
 * stores them, so they are turned here.
 * @returns null where there is no such thing, something shines through, or it cannot be told how the frame lies
 */
async function readFrame(bitmap: ImageBitmap, orientation: number): Promise<PixelImage | null> {
  if (typeof VideoFrame === 'undefined') return null;
  const frame = new VideoFrame(bitmap, { timestamp: 0 });
  try {
    const { format, codedWidth, codedHeight } = frame;
    const { width, height } = bitmap;
    const upright = orientation === 1 && codedWidth === width && codedHeight === height;
    const lying =
      (orientation === 6 || orientation === 8) && width !== height && codedWidth === height && codedHeight === width;
    if ((format !== 'RGBX' && format !== 'BGRX') || !(upright || lying)) return null;
    const image = createPixelImage(width, height, 3);
    const strip = new Uint8ClampedArray(4 * codedWidth * Math.min(codedHeight, STRIP_ROWS));
    for (let top = 0; top < codedHeight; top += STRIP_ROWS) {
      const rows = Math.min(STRIP_ROWS, codedHeight - top);
      const pixels = strip.subarray(0, 4 * codedWidth * rows);
      await frame.copyTo(pixels, { rect: { x: 0, y: top, width: codedWidth, height: rows } });
      const order = format === 'RGBX' ? 'rgba' : 'bgra';
      if (upright) packRgb(pixels, image.data, 3 * top * width, order);
      else packTurned({ pixels, order, length: codedWidth, first: top, clockwise: orientation === 6 }, image);
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
