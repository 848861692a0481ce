import type { PixelImage } from '../raster/pixelImage';
import type { Rgb } from './inkColours';

/** Pixels that are painted. */
export interface PaintedPixels {
  /** Row by row, as indices into the page. */
  readonly inkPixels: Uint32Array;
  /** For each of them the masks it belongs to: bit k for the k-th that is painted. The highest is what is seen. */
  readonly paintedIn: Uint32Array;
}

/** What is painted over the paper, mask over mask, each in one colour. */
export interface InkMasks extends PaintedPixels {
  /** Colours in the order of painting; at most 32. */
  readonly inks: readonly Rgb[];
}

/** The last mask of some that a pixel belongs to is the one that is seen. */
export const seenOf = (masks: number): number => 31 - Math.clz32(masks);

/**
 * Gives masks the mean colours of what is seen of them; of one that nothing is seen of, white.
 * @param masks - how many there are
 */
export function inColours(
  { channels, data }: PixelImage,
  masks: number,
  { inkPixels, paintedIn }: PaintedPixels,
): InkMasks {
  const sums = new Float64Array(4 * masks);
  const [green, blue] = channels === 1 ? [0, 0] : [1, 2];
  for (let k = 0; k < inkPixels.length; k++) {
    const at = 4 * seenOf(paintedIn[k]!);
    const from = inkPixels[k]! * channels;
    sums[at]! += data[from]!;
    sums[at + 1]! += data[from + green]!;
    sums[at + 2]! += data[from + blue]!;
    sums[at + 3]!++;
  }
  const inks = Array.from({ length: masks }, (_, mask): Rgb => {
    const count = sums[4 * mask + 3]!;
    if (count === 0) return [255, 255, 255];
    return [sums[4 * mask]!, sums[4 * mask + 1]!, sums[4 * mask + 2]!].map((sum) => Math.round(sum / count)) as [
      number,
      number,
      number,
    ];
  });
  return { inks, inkPixels, paintedIn };
}

/** Without masks that others cover everywhere, or that are empty. */
export function withoutUnseen({ inks, inkPixels, paintedIn }: InkMasks): InkMasks {
  let seen = 0;
  for (let k = 0; k < paintedIn.length; k++) seen |= 1 << seenOf(paintedIn[k]!);
  const kept = inks.flatMap((_, mask) => (((seen >>> mask) & 1) === 1 ? [mask] : []));
  // masks above the highest that is seen have no pixel: where only such are left out, no bit moves
  const areFirst = kept.every((mask, place) => mask === place);
  return {
    inks: kept.map((mask) => inks[mask]!),
    inkPixels,
    paintedIn: areFirst ? paintedIn : keptOf(paintedIn, kept),
  };
}

/** For each pixel's masks those that are kept, the first of these as bit 0. */
function keptOf(paintedIn: Uint32Array, kept: readonly number[]): Uint32Array {
  const left = new Uint32Array(paintedIn.length);
  for (let place = 0; place < kept.length; place++) {
    const mask = kept[place]!;
    for (let k = 0; k < left.length; k++) left[k]! |= ((paintedIn[k]! >>> mask) & 1) << place;
  }
  return left;
}
