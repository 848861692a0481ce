import type { BilevelRows } from '../jbig2/jbig2';
import type { PageLayers } from './pageLayers';

/**
 * An ink's mask for the coder, the size of PageLayers.inkBox; its rows may be asked for in any order.
 * @param ink - its place in PageLayers.inks
 * @param width - of the page, px
 */
export function inkRows({ inkPixels, paintedIn, inkBox }: PageLayers, ink: number, width: number): BilevelRows {
  return {
    width: inkBox.width,
    height: inkBox.height,
    row(y, into, extent) {
      const from = (inkBox.y + y) * width + inkBox.x;
      const first = firstFrom(inkPixels, from);
      const end = firstFrom(inkPixels, from + inkBox.width);
      for (let k = first; k < end; k++) {
        if (((paintedIn[k]! >>> ink) & 1) === 0) continue;
        const x = inkPixels[k]! - from;
        into[x] = 1;
        if (extent[1]! < 0) extent[0] = x;
        extent[1] = x;
      }
    },
  };
}

/** The first of rising numbers that is not below one, by halving; their count where all are below it. */
function firstFrom(rising: Uint32Array, least: number): number {
  let [low, high] = [0, rising.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (rising[middle]! < least) low = middle + 1;
    else high = middle;
  }
  return low;
}
