import { createPixelImage, type PixelImage } from '../raster/pixelImage';

/*
 * Where an outline lies a hair outside the paper, a sliver of desk or of the paper's own shadow is left along a side.
 * Walking in from the side, everything that is not paper is taken for such a sliver where it ends soon; a ruled line that
 * runs off the page does not end soon, and stays.
 */

/** How wide a sliver may be, as a share of the page's long side: 2 mm of A4. */
const WIDEST = 0.007;
/** Lightness from which a pixel is paper, of 255. */
const PAPER_FROM = 226;
/** A sliver is looked for in stretches this long, as a share of the side; what is shorter may be writing. */
const SHORTEST = 0.05;
/** Share of such a stretch over which it must be seen. */
const MOSTLY = 0.35;
/** Nobody writes within this share of the page's long side from its edge: what ends there is a sliver, however short. Half a millimetre of A4. */
const HAIR = 0.0017;

/** Paints slivers along the sides white. @returns the same picture where there are none */
export function cleanBorder(page: PixelImage): PixelImage {
  const { width, height, channels, data } = page;
  const widest = Math.max(2, Math.round(WIDEST * Math.max(width, height)));
  const hair = Math.max(1, Math.round(HAIR * Math.max(width, height)));
  if (Math.min(width, height) < 8 * widest) return page;
  let out: PixelImage | null = null;
  for (const side of [0, 1, 2, 3] as const) {
    const along = side % 2 === 0 ? width : height;
    const place = (s: number, d: number): number =>
      (side === 0
        ? d * width + s
        : side === 2
          ? (height - 1 - d) * width + s
          : side === 1
            ? s * width + width - 1 - d
            : s * width + d) * channels;
    const isPaper = (at: number): boolean =>
      (channels === 1 ? data[at]! : Math.min(data[at]!, data[at + 1]!, data[at + 2]!)) >= PAPER_FROM;
    const depths = new Uint16Array(along);
    for (let s = 0; s < along; s++) {
      let depth = 0;
      // the last dark pixel before a run of paper as wide as what came before it
      for (let d = 0, paper = 0; d < 2 * widest && paper <= Math.max(2, widest >> 1); d++) {
        if (isPaper(place(s, d))) paper++;
        else {
          paper = 0;
          depth = d + 1;
        }
      }
      depths[s] = depth > widest ? 0 : depth;
    }
    const reach = Math.max(2, Math.round((SHORTEST / 2) * along));
    let seen = 0;
    for (let s = -reach; s < along; s++) {
      if (s + reach < along && depths[s + reach]! > 0) seen++;
      if (s - reach - 1 >= 0 && depths[s - reach - 1]! > 0) seen--;
      if (s < 0 || depths[s] === 0 || (depths[s]! > hair && seen < MOSTLY * 2 * reach)) continue;
      out ??= { ...createPixelImage(width, height, channels), data: data.slice() };
      for (let d = 0; d <= Math.min(widest, depths[s]! + 1); d++)
        for (let c = 0; c < channels; c++) out.data[place(s, d) + c] = 255;
    }
  }
  return out ?? page;
}
