import type { PixelImage } from '../raster/pixelImage';
import { adjustTones } from './adjustTones';
import { board } from './board';
import { cleanBorder } from './cleanBorder';
import { daylight } from './daylight';
import type { Finish, LightSettings } from './finishSettings';
import type { PageToFinish } from './pageLight';
import { pencil } from './pencil';
import { press, readStrokes } from './press';

/** A finish as far as sliders do not reach it: started once, set as often as a slider moves. */
export type StartedFinish = (settings: LightSettings) => PixelImage;

/**
 * Does what of a finish hangs on its switches only.
 * @param mostLongSidePx - Press enlarges the page up to this, and never by more than twice
 * @returns what sets it: strength, brightness, contrast, colour, sharpness
 */
export function startFinish(
  source: PageToFinish,
  finish: Finish,
  switches: Pick<LightSettings, 'fadeRules' | 'invert'>,
  mostLongSidePx = Infinity,
): StartedFinish {
  if (finish === 'press') {
    const strokes = readStrokes(source.light());
    return ({ brightness }) => cleanBorder(press(strokes, brightness, mostLongSidePx));
  }
  const page = untoned(source, finish, switches);
  return (settings) => adjustTones(page, source.flat, settings);
}

function untoned(
  { flat, light }: PageToFinish,
  finish: Exclude<Finish, 'press'>,
  { fadeRules, invert }: Pick<LightSettings, 'fadeRules' | 'invert'>,
): PixelImage {
  switch (finish) {
    case 'asshot':
      return flat;
    case 'daylight':
      return cleanBorder(daylight(light()));
    case 'pencil':
      return cleanBorder(pencil(light(), fadeRules));
    case 'board':
      return board(light(), invert);
  }
}

/**
 * Lights a flat page as the finish asks. Never alters its input.
 * @returns RGB, or grey for Pencil and Press; Press has two levels and may be larger than the page
 */
export const applyFinish = (
  source: PageToFinish,
  finish: Finish,
  settings: LightSettings,
  mostLongSidePx?: number,
): PixelImage => startFinish(source, finish, settings, mostLongSidePx)(settings);
