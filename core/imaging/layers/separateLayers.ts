import type { PixelImage } from '../raster/pixelImage';
import { cheaperMasks } from './cheaperMasks';
import { findStrokes, type PageStrokes, type Tones } from './findStrokes';
import { inColours, withoutUnseen, type InkMasks } from './inkMasks';
import { inOneTone, inTones } from './inkTones';
import type { PageLayers } from './pageLayers';
import type { PaleRules } from './paleRules';
import type { PixelBox } from './pixelBox';

/*
 * A finished page is taken apart into what it was made of: strokes in a few inks, each a mask of two levels and one colour;
 * pictures, kept as pictures; and what is behind them, which is so smooth that a few dots per inch will do. With soft edges a
 * stroke is several masks, from the pale rim that a lens gives it to its body: laid over each other they look as the page did.
 * Each covers the darker ones too, and all have the same box, so that no reader, whatever it enlarges, leaves a seam between them.
 */

/**
 * Takes a page apart.
 * @param page - finished on white paper: RGB, RGBA or grey
 * @param tones - 1 has hard edges and takes about three quarters of the bytes of 2
 * @param strokes - of this page, where they are known
 */
export function separateLayers(page: PixelImage, tones: Tones, strokes: PageStrokes = findStrokes(page)): PageLayers {
  const { background, pictures } = strokes;
  const toned = tones === 1 ? inOneTone(strokes) : inTones(strokes, tones);
  const masks = withoutUnseen(inColours(page, MOST_MASKS, toned));
  return { background, pictures, ...masks, inkBox: boxAround(masks, page.width) };
}

/** The same layers with masks that take fewer bytes: see cheaperMasks. */
export function withCheaperMasks(page: PixelImage, rules: PaleRules, layers: PageLayers): PageLayers {
  const cheaper = cheaperMasks(page, rules, layers.background, layers);
  return { ...layers, ...cheaper, inkBox: boxAround(cheaper, page.width) };
}

/** A bit each in InkMasks.paintedIn; six inks and four filled boxes in three tones are thirty. */
const MOST_MASKS = 32;

function boxAround({ inkPixels }: InkMasks, width: number): PixelBox {
  if (inkPixels.length === 0) return { x: width, y: 0, width: 0, height: 0 };
  let [left, right] = [width, 0];
  for (const i of inkPixels) {
    const x = i % width;
    if (x < left) left = x;
    if (x > right) right = x;
  }
  const top = Math.floor(inkPixels[0]! / width);
  const bottom = Math.floor(inkPixels.at(-1)! / width);
  return { x: left, y: top, width: right - left + 1, height: bottom - top + 1 };
}
