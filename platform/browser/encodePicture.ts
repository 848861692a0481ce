import type { PixelImage } from '../../core/raster/pixelImage';

/** Encodes a page as a baseline JPEG, in a worker. */
export const encodeJpeg = (page: PixelImage, quality: number): Promise<Blob> => canvasOf(page).convertToBlob({ type: 'image/jpeg', quality });

export const encodePng = (page: PixelImage): Promise<Blob> => canvasOf(page).convertToBlob({ type: 'image/png' });

function canvasOf(page: PixelImage): OffscreenCanvas {
  const { width, height, channels, data } = page;
  const canvas = new OffscreenCanvas(width, height);
  const context = canvas.getContext('2d');
  if (context === null) throw new Error('encodePicture: no 2d context');
  const rgba = channels === 4 ? data : toRgba(data, width * height, channels);
  context.putImageData(new ImageData(rgba, width, height), 0, 0);
  return canvas;
}

function toRgba(data: Uint8ClampedArray<ArrayBuffer>, pixels: number, channels: 1 | 3): Uint8ClampedArray<ArrayBuffer> {
  const rgba = new Uint8ClampedArray(pixels * 4);
  for (let i = 0, from = 0, to = 0; i < pixels; i++, from += channels, to += 4) {
    rgba[to] = data[from]!;
    rgba[to + 1] = channels === 1 ? data[from]! : data[from + 1]!;
    rgba[to + 2] = channels === 1 ? data[from]! : data[from + 2]!;
    rgba[to + 3] = 255;
  }
  return rgba;
}
