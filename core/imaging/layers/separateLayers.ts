import type { PixelImage } from '../raster/pixelImage';
import { findStrokes, TONES_FROM, type PageStrokes, type Tones } from './findStrokes';
import type { Rgb } from './inkColours';
import type { PageLayers } from './pageLayers';

/*
 * A finished page is taken apart into what it was made of: strokes in a few inks, each a mask of two levels and one colour;
 * pictures, kept as pictures; and what is behind them, which is so smooth that a few dots per inch will do. With soft edges a
 * stroke is several masks, from the pale rim that a lens gives it to its body: laid over each other they look as the page did.
 * Each covers the darker ones too, and all have the same box, so that no reader, whatever it enlarges, leaves a seam between them.
 */

/**
 * Takes a page apart.
 * @param page - finished on white paper: RGB, RGBA or grey
 * @param tones - 1 has hard edges and takes about half the bytes of 2
 * @param strokes - of this page, where they are known
 */
export function separateLayers(page: PixelImage, tones: Tones, strokes: PageStrokes = findStrokes(page)): PageLayers {
  const { depth, full, inks, pale, pixels, own, background, pictures } = strokes;
  const tonesFrom = TONES_FROM[tones];
  const inkPixels = new Uint32Array(pixels.length);
  const labels = new Uint8Array(pixels.length);
  let count = 0;
  for (let k = 0; k < pixels.length; k++) {
    const i = pixels[k]!;
    let tone = 0;
    if (pale[own[k]!] !== true) {
      const deepest = full[i]!;
      if (depth[i]! < tonesFrom[0] * deepest) continue;
      while (tone + 1 < tonesFrom.length && depth[i]! >= tonesFrom[tone + 1]! * deepest) tone++;
    }
    labels[count] = tone * inks.length + own[k]!;
    inkPixels[count++] = i;
  }
  const painted = inkPixels.subarray(0, count);
  return { background, pictures, inkPixels: painted, ...masksOf(page, labels, painted, inks.length, tonesFrom.length) };
}

/** A mask for every tone of every ink that is there, in the mean colour of what it alone paints; palest first. */
function masksOf(
  { width, channels, data }: PixelImage,
  labelled: Uint8Array,
  inkPixels: Uint32Array,
  inks: number,
  tones: number,
): Pick<PageLayers, 'inks' | 'paintedBy' | 'inkBox'> {
  const labels = inks * tones;
  const counts = new Uint32Array(labels);
  const sums = new Float64Array(3 * labels);
  let [left, right] = [width, -1];
  for (let k = 0; k < inkPixels.length; k++) {
    const i = inkPixels[k]!;
    const own = labelled[k]!;
    const x = i % width;
    if (x < left) left = x;
    if (x > right) right = x;
    counts[own]!++;
    for (let c = 0; c < 3; c++) sums[3 * own + c]! += data[i * channels + (channels === 1 ? 0 : c)]!;
  }
  const [top, bottom] =
    inkPixels.length === 0
      ? [0, -1]
      : ([inkPixels[0]!, inkPixels.at(-1)!].map((i) => Math.floor(i / width)) as [number, number]);
  const there = Array.from({ length: labels }, (_, own) => own).filter((own) => counts[own]! > 0);
  const place = new Uint8Array(labels);
  there.forEach((own, k) => (place[own] = k));
  const paintedBy = new Uint8Array(inkPixels.length);
  for (let k = 0; k < paintedBy.length; k++) paintedBy[k] = place[labelled[k]!]!;
  return {
    inks: there.map((own) => {
      const paints = new Uint8Array(there.length);
      for (let darker = own; darker < labels; darker += inks) if (counts[darker]! > 0) paints[place[darker]!] = 1;
      const mean = (c: number): number => Math.round(sums[3 * own + c]! / counts[own]!);
      return { colour: [mean(0), mean(1), mean(2)] as Rgb, paints };
    }),
    paintedBy,
    inkBox: { x: left, y: top, width: Math.max(0, right - left + 1), height: bottom - top + 1 },
  };
}
