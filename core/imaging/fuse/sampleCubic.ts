import type { PixelImage } from '../raster/pixelImage';

/** Cubic convolution (Keys 1981); -0.5 is the usual one, lower is sharper. */
const CUBIC_A = -0.75;

/** Weights for 64 places between two pixels, four each. */
const CUBIC = Float32Array.from({ length: 65 * 4 }, (_, i) => {
  const t = Math.abs((i >> 2) / 64 - ((i & 3) - 1));
  if (t < 1) return (CUBIC_A + 2) * t ** 3 - (CUBIC_A + 3) * t ** 2 + 1;
  return t < 2 ? CUBIC_A * t ** 3 - 5 * CUBIC_A * t ** 2 + 8 * CUBIC_A * t - 4 * CUBIC_A : 0;
});

/**
 * Reads red, green and blue between pixels, a little sharper than they are; of grey three times the same.
 * @param x - px from the picture's left border, y likewise from its top; pixel middles lie at halves
 * @param into - three levels, which may leave 0 to 255
 * @returns whether all pixels needed are in the picture; nothing is written where they are not
 */
export function sampleCubic(
  { width, height, channels, data }: PixelImage,
  x: number,
  y: number,
  into: Float32Array,
): boolean {
  const [px, py] = [x - 0.5, y - 0.5];
  if (!(px >= 1 && py >= 1 && px < width - 2 && py < height - 2)) return false;
  const column = px | 0;
  const row = py | 0;
  const wx = 4 * (((px - column) * 64 + 0.5) | 0);
  const wy = 4 * (((py - row) * 64 + 0.5) | 0);
  const [green, blue] = channels === 1 ? [0, 0] : [1, 2];
  let [r, g, b] = [0, 0, 0];
  for (let j = 0; j < 4; j++) {
    const down = CUBIC[wy + j]!;
    let at = ((row + j - 1) * width + column - 1) * channels;
    for (let i = 0; i < 4; i++, at += channels) {
      const weight = down * CUBIC[wx + i]!;
      r += weight * data[at]!;
      g += weight * data[at + green]!;
      b += weight * data[at + blue]!;
    }
  }
  into[0] = r;
  into[1] = g;
  into[2] = b;
  return true;
}
