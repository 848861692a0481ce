import type { PixelImage } from '../../core/imaging/raster/pixelImage';

/** Encodes a page as a baseline JPEG, in a worker. */
export const encodeJpeg = (page: PixelImage, quality: number): Promise<Blob> =>
  encode(page, { type: 'image/jpeg', quality });

export const encodePng = (page: PixelImage): Promise<Blob> => encode(page, { type: 'image/png' });

/** The page as the browser draws it, to be shown and thrown away. */
export function toBitmap(page: PixelImage): ImageBitmap {
  const canvas = new OffscreenCanvas(page.width, page.height);
  draw(page, canvas);
  return canvas.transferToImageBitmap();
}

async function encode(page: PixelImage, options: ImageEncodeOptions): Promise<Blob> {
  const canvas = new OffscreenCanvas(page.width, page.height);
  draw(page, canvas);
  const blob = await canvas.convertToBlob(options);
  // its memory is given back now, not when the browser comes to it
  canvas.width = 0;
  return blob;
}

/** A canvas takes four bytes a pixel: it gets them in strips, so that the page is not there once more. */
const STRIP_ROWS = 256;

function draw({ width, height, channels, data }: PixelImage, canvas: OffscreenCanvas): void {
  const context = canvas.getContext('2d');
  if (context === null) throw new Error('encodePicture: no 2d context');
  const strip = new ImageData(width, Math.min(STRIP_ROWS, height));
  for (let top = 0; top < height; top += STRIP_ROWS) {
    const rows = Math.min(STRIP_ROWS, height - top);
    fillRgba(strip.data, data.subarray(top * width * channels, (top + rows) * width * channels), channels);
    context.putImageData(strip, 0, top, 0, 0, width, rows);
  }
}

function fillRgba(rgba: Uint8ClampedArray, samples: Uint8ClampedArray, channels: 1 | 3 | 4): void {
  if (channels === 4) return rgba.set(samples);
  for (let from = 0, to = 0; from < samples.length; from += channels, to += 4) {
    rgba[to] = samples[from]!;
    rgba[to + 1] = channels === 1 ? samples[from]! : samples[from + 1]!;
    rgba[to + 2] = channels === 1 ? samples[from]! : samples[from + 2]!;
    rgba[to + 3] = 255;
  }
}
