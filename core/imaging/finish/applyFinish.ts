import type { PixelImage } from '../raster/pixelImage';
import { adjustTones } from './adjustTones';
import { board } from './board';
import { cleanBorder } from './cleanBorder';
import { daylight } from './daylight';
import type { Finish, LightSettings } from './finishSettings';
import type { PageLight } from './pageLight';
import { pencil } from './pencil';
import { press, readStrokes } from './press';

/** A finish as far as sliders do not reach it: started once, set as often as a slider moves. */
export type StartedFinish = (settings: LightSettings) => PixelImage;

/** As shot needs nothing of a page's light. */
export const startAsShot =
  (flat: PixelImage): StartedFinish =>
  (settings) =>
    adjustTones(flat, flat, settings);

/**
 * Does what of a finish hangs on its switches only.
 * @returns what sets it: strength, brightness, contrast, colour, sharpness
 */
export function startFinish(
  lit: PageLight,
  finish: Finish,
  switches: Pick<LightSettings, 'fadeRules' | 'invert'>,
): StartedFinish {
  if (finish === 'press') {
    const strokes = readStrokes(lit);
    return ({ brightness }) => cleanBorder(press(strokes, brightness));
  }
  const page = untoned(lit, finish, switches);
  return (settings) => adjustTones(page, lit.flat, settings);
}

function untoned(
  lit: PageLight,
  finish: Exclude<Finish, 'press'>,
  { fadeRules, invert }: Pick<LightSettings, 'fadeRules' | 'invert'>,
): PixelImage {
  switch (finish) {
    case 'asshot':
      return lit.flat;
    case 'daylight':
      return cleanBorder(daylight(lit));
    case 'pencil':
      return cleanBorder(pencil(lit, fadeRules));
    case 'board':
      return board(lit, invert);
  }
}

/**
 * Lights a flat page as the finish asks. Never alters its input.
 * @returns RGB, or grey for Pencil and Press; Press has two levels and may be larger than the page
 */
export const applyFinish = (lit: PageLight, finish: Finish, settings: LightSettings): PixelImage =>
  startFinish(lit, finish, settings)(settings);
