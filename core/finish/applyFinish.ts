import { estimatePaperField, type PaperField } from '../light/paperField';
import type { PixelImage } from '../raster/pixelImage';
import { adjustTones } from './adjustTones';
import { board } from './board';
import { cleanRim } from './cleanRim';
import { daylight } from './daylight';
import type { Finish, LightSettings } from './light';
import { pencil } from './pencil';
import { press } from './press';

/** A page with what its finishes need to know about its light: worked out once, used by every finish and every setting. */
export interface LitPage {
  /** Flattened, grey or RGB. */
  readonly page: PixelImage;
  readonly field: PaperField;
  /** The page's size over that at which it would show all the photo's detail: less than 1 for a preview. */
  readonly detail: number;
}

/** The field is worked out when it is first asked for: As shot needs none. */
export function lightPage(page: PixelImage, detail = 1): LitPage {
  let field: PaperField | null = null;
  return {
    page,
    detail,
    get field() {
      return (field ??= estimatePaperField(page));
    },
  };
}

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
