import { forEachGainRow } from '../light/paperShare';
import { fitLongSide } from '../raster/resizeByArea';
import type { LitPage } from './litPage';
import type { Finish } from './light';

const LOOK_LONG_SIDE_PX = 900;
/** A pixel darker than this share of the paper is ink; where all ink is paler, it is pencil. */
const INK_SHARE = 0.9;
const PENCIL_SHARE = 0.42;
/** Spread between channels, as a share of the paper, from which ink is coloured. */
const COLOURED = 0.16;
const PICTURE_AREA = 0.04;
const LEAST_INK = 0.0015;

/**
 * The finish that suits what is on the page: Daylight for coloured ink and pictures, Press for black print and pen on bare
 * paper, Pencil where even the darkest strokes are grey. Null where the page is all but blank.
 */
export function suggestFinish({ page, field }: LitPage): Finish | null {
  const small = fitLongSide(page, LOOK_LONG_SIDE_PX);
  const { width, height, channels, data } = small;
  const colours = field.planes.length;
  const margin = 0.03;
  let [ink, coloured, looked] = [0, 0, 0];
  const darkness: number[] = [];
  forEachGainRow(small, field, 1, (y, gains) => {
    if (y < margin * height || y > (1 - margin) * height) return;
    for (let x = Math.round(margin * width); x < (1 - margin) * width; x++) {
      const at = (y * width + x) * channels;
      const k = x * colours;
      const r = data[at]! * gains[k]!;
      const g = colours === 1 ? r : data[at + 1]! * gains[k + 1]!;
      const b = colours === 1 ? r : data[at + 2]! * gains[k + 2]!;
      looked++;
      const least = Math.min(r, g, b);
      if (least > INK_SHARE) continue;
      ink++;
      darkness.push(1 - least);
      if (Math.max(r, g, b) - least > COLOURED) coloured++;
    }
  });
  if (ink < LEAST_INK * looked) return null;
  let pictured = 0;
  for (const thing of field.things) pictured += thing;
  if (pictured > PICTURE_AREA * field.things.length) return 'daylight';
  if (coloured > 0.12 * ink) return 'daylight';
  darkness.sort((a, b) => a - b);
  return darkness[Math.floor(darkness.length * 0.85)]! < PENCIL_SHARE ? 'pencil' : 'press';
}
