import { lumaOf } from '../raster/lightness';
import { estimatePaperField } from '../light/paperField';
import { forEachGainRow } from '../light/gainRows';
import { createPixelImage, type PixelImage } from '../raster/pixelImage';
import type { PageLight } from './pageLight';
import { quantile } from '../raster/quantile';

/** A wiped board keeps ghosts of what was on it: down to this share of the board everything is white. */
const GHOST_SHARE = 0.86;
/** Down from this share of the board everything is black. */
const BLACK_SHARE = 0.12;
/** How strokes between the two are darkened: over 1 makes them firmer. */
const INK_GAMMA = 1.15;
/** Marker colours are seen through glare and thin ink: this much more of their difference from grey. */
const COLOUR_GAIN = 1.7;
/** Median level below which a board is a dark one, with chalk on it. */
const DARK_BOARD_BELOW = 110;
/** Steps of the tone curve from no light to the board's own. */
const STEPS = 1024;

/**
 * Board: wall tone, glare and ghosts gone, marker colours strong. A dark board is lit as the negative of a white one, and
 * comes out dark again or, inverted, as dark writing on white that keeps each chalk's hue.
 */
export function board(lit: PageLight, invert: boolean): PixelImage {
  if (!isDark(lit.page)) return strengthen(evenOut(lit));
  const negative = negativeOf(lit.page);
  const chalk = negativeOf(evenOut({ page: negative, field: estimatePaperField(negative) }));
  return strengthen(invert ? withLightnessTurned(chalk) : chalk);
}

function isDark({ data, channels }: PixelImage): boolean {
  const levels: number[] = [];
  const step = Math.max(1, Math.floor(data.length / channels / 4000)) * channels;
  for (let i = 0; i + channels <= data.length; i += step) levels.push(channels === 1 ? data[i]! : data[i + 1]!);
  return quantile(levels, 0.5, 255) < DARK_BOARD_BELOW;
}

function evenOut({ page, field }: Pick<PageLight, 'page' | 'field'>): PixelImage {
  const { width, height, channels, data } = page;
  const out = createPixelImage(width, height, channels === 1 ? 1 : 3);
  const tone = Uint8ClampedArray.from(
    { length: STEPS + 1 },
    (_, i) => 255 * Math.min(1, Math.max(0, (i / STEPS - BLACK_SHARE) / (GHOST_SHARE - BLACK_SHARE))) ** INK_GAMMA,
  );
  forEachGainRow(page, field, STEPS, (y, gains) => {
    let from = y * width * channels;
    let to = y * width * out.channels;
    for (let k = 0; k < gains.length; from += channels)
      for (let c = 0; c < out.channels; c++, k++, to++)
        out.data[to] = tone[Math.min(STEPS, data[from + c]! * gains[k]!) | 0]!;
  });
  return out;
}

function negativeOf({ width, height, channels, data }: PixelImage): PixelImage {
  const out = createPixelImage(width, height, channels);
  for (let i = 0; i < data.length; i++) out.data[i] = 255 - data[i]!;
  return out;
}

/** Dark becomes light and light dark; what makes a colour, its difference from grey, stays. */
function withLightnessTurned({ width, height, channels, data }: PixelImage): PixelImage {
  if (channels === 1) return negativeOf({ width, height, channels, data });
  const out = createPixelImage(width, height, channels);
  for (let i = 0; i < data.length; i += channels) {
    const grey = lumaOf(data[i]!, data[i + 1]!, data[i + 2]!);
    for (let c = 0; c < 3; c++) out.data[i + c] = data[i + c]! - grey + 255 - grey;
  }
  return out;
}

function strengthen(page: PixelImage): PixelImage {
  const { data, channels } = page;
  if (channels === 1) return page;
  for (let i = 0; i < data.length; i += channels) {
    const grey = lumaOf(data[i]!, data[i + 1]!, data[i + 2]!);
    for (let c = 0; c < 3; c++) data[i + c] = grey + (data[i + c]! - grey) * COLOUR_GAIN;
  }
  return page;
}
