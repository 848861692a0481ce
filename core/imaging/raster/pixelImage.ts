/** 8-bit samples, interleaved, rows from the top, no padding: data.length === width * height * channels. */
export interface PixelImage {
  readonly width: number;
  readonly height: number;
  readonly channels: 1 | 3 | 4;
  readonly data: Uint8ClampedArray<ArrayBuffer>;
}

/** A black picture (RGBA: a transparent one). */
export function createPixelImage(width: number, height: number, channels: 1 | 3 | 4): PixelImage {
  return { width, height, channels, data: new Uint8ClampedArray(width * height * channels) };
}

/**
 * Wraps samples that come from outside the core.
 * @throws RangeError when the sizes are not whole and positive, or the data's length does not match them
 */
export function pixelImageFrom(
  width: number,
  height: number,
  channels: 1 | 3 | 4,
  data: Uint8ClampedArray<ArrayBuffer>,
): PixelImage {
  if (!Number.isInteger(width) || !Number.isInteger(height) || width < 1 || height < 1) {
    throw new RangeError(`pixelImageFrom: sizes must be whole and positive, got ${width} × ${height}`);
  }
  if (data.length !== width * height * channels) {
    throw new RangeError(
      `pixelImageFrom: ${width} × ${height} × ${channels} needs ${width * height * channels} samples, got ${data.length}`,
    );
  }
  return { width, height, channels, data };
}
