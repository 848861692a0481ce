import type { PixelImage } from '../raster/pixelImage';
import { adjustTones } from './adjustTones';
import { board } from './board';
import { cleanRim } from './cleanRim';
import { daylight } from './daylight';
import type { Finish, LightSettings } from './light';
import type { LitPage } from './litPage';
import { pencil } from './pencil';
import { press } from './press';

/**
 * Lights a flat page as the finish asks. Never alters its input.
 * @returns RGB, or grey for Pencil and Press; Press has two levels and may be larger than the page
 */
export function applyFinish(lit: LitPage, finish: Finish, settings: LightSettings): PixelImage {
  switch (finish) {
    case 'asshot':
      return adjustTones(lit.page, lit.page, settings);
    case 'daylight':
      return adjustTones(cleanRim(daylight(lit)), lit.page, settings);
    case 'pencil':
      return adjustTones(cleanRim(pencil(lit, settings)), lit.page, settings);
    case 'board':
      return adjustTones(board(lit, settings), lit.page, settings);
    case 'press':
      return cleanRim(press(lit, settings));
  }
}
