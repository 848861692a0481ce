import type { PixelImage } from '../raster/pixelImage';

export const SIDES = ['top', 'right', 'bottom', 'left'] as const;

/** The part of a photo that its file no longer has. */
export interface MissingPart {
  readonly side: (typeof SIDES)[number];
  /** Of the photo's height, or of its width where it is missing at the left or right. */
  readonly share: number;
}

/** What decoders paint where a JPEG has no more data: all coefficients are zero, which is the middle of the range (ITU-T T.81, A.3.1). */
const MIDDLE = 128;
/** A camera's noise never leaves so many lines alike; a JPEG is painted in blocks of at least so many. */
const LEAST_LINES = 8;

/**
 * The part of a photo at one of its sides that is exactly the grey of a JPEG without data; null where nothing is.
 * @param photo - upright, so that what is missing may be at any side; at its full size, or smaller
 */
export function findMissingPart({ width, height, channels, data }: PixelImage): MissingPart | null {
  const isGrey = (x: number, y: number): boolean => {
    const at = (y * width + x) * channels;
    for (let c = 0; c < Math.min(channels, 3); c++) if (data[at + c] !== MIDDLE) return false;
    return true;
  };
  const rowIsGrey = (y: number): boolean => {
    for (let x = 0; x < width; x++) if (!isGrey(x, y)) return false;
    return true;
  };
  const columnIsGrey = (x: number): boolean => {
    for (let y = 0; y < height; y++) if (!isGrey(x, y)) return false;
    return true;
  };
  const lines = {
    top: (k: number) => rowIsGrey(k),
    right: (k: number) => columnIsGrey(width - 1 - k),
    bottom: (k: number) => rowIsGrey(height - 1 - k),
    left: (k: number) => columnIsGrey(k),
  };
  for (const side of SIDES) {
    const most = side === 'top' || side === 'bottom' ? height : width;
    let count = 0;
    while (count < most && lines[side](count)) count++;
    if (count >= LEAST_LINES) return { side, share: count / most };
  }
  return null;
}
