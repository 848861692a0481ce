import { forEachGainRow } from '../light/gainRows';
import { fitLongSide } from '../raster/resizeByArea';
import type { PageLight } from './pageLight';
import type { Finish } from './finishSettings';
import { quantile } from '../raster/quantile';

/** Pages are looked at no larger than this: strokes are then one to three pixels wide. */
const LOOK_LONG_SIDE_PX = 900;
/** A pixel darker than this share of the paper is ink. */
const INK_SHARE = 0.9;
/** Half the breadth of the window across a stroke in which its ink is summed, px. */
const ACROSS_PX = 2;
/** Ink across the middling stroke, in px of full depth, below which a page is drawn in pencil: a pen's stroke, or print, has more however blurred. */
const PENCIL_WEIGHT = 0.7;
/** Three pixels across a stroke that are at least this share as deep as the deepest show it as dark as it is: then this depth parts pencil from pen. */
const FLAT_TOPPED = 0.92;
/** The depth of a stroke, as a share of the paper, that parts pencil from pen where three pixels show it. */
const PENCIL_DEPTH = 0.34;
/** Spread between channels, as a share of the paper, from which ink is coloured. */
const COLOURED = 0.16;
/** Share of the ink that must be coloured. */
const COLOURED_AREA = 0.12;
/** Or the spread of all the ink's mean colour, as a share of its depth: pale strokes of a coloured pen. */
const TINTED = 0.2;
/** Share of the page covered by pictures from which it is lit as one with pictures. */
const PICTURE_AREA = 0.04;
/** Share of the page below which it is all but blank. */
const LEAST_INK = 0.0015;
/** Share of the page along its sides that is not looked at. */
const MARGIN = 0.03;

/**
 * The finish that suits what is on the page: Daylight for coloured ink and pictures, Press for black print and pen on bare
 * paper, Pencil where strokes lay little ink down. Null where the page is all but blank.
 * @param lit - any size; it is looked at no larger than 900 px
 */
export function suggestFinish({ page, field }: PageLight): Finish | null {
  const small = fitLongSide(page, LOOK_LONG_SIDE_PX);
  const { width, height, channels, data } = small;
  const colours = field.planes.length;
  let [ink, coloured, looked] = [0, 0, 0];
  const missing = [0, 0, 0];
  const depth = new Float32Array(width * height);
  forEachGainRow(small, field, 1, (y, gains) => {
    if (y < MARGIN * height || y > (1 - MARGIN) * height) return;
    for (let x = Math.round(MARGIN * width); x < (1 - MARGIN) * width; x++) {
      const at = (y * width + x) * channels;
      const k = x * colours;
      const r = data[at]! * gains[k]!;
      const g = colours === 1 ? r : data[at + 1]! * gains[k + 1]!;
      const b = colours === 1 ? r : data[at + 2]! * gains[k + 2]!;
      looked++;
      const least = Math.min(r, g, b);
      depth[y * width + x] = 1 - least;
      if (least > INK_SHARE) continue;
      ink++;
      missing[0]! += 1 - r;
      missing[1]! += 1 - g;
      missing[2]! += 1 - b;
      if (Math.max(r, g, b) - least > COLOURED) coloured++;
    }
  });
  if (ink < LEAST_INK * looked) return null;
  let pictured = 0;
  for (const thing of field.nonPaper) pictured += thing;
  if (pictured > PICTURE_AREA * field.nonPaper.length) return 'daylight';
  const most = Math.max(...missing);
  if (coloured > COLOURED_AREA * ink || most - Math.min(...missing) > TINTED * most) return 'daylight';
  return strokeWeight(depth, width, height) < PENCIL_WEIGHT ? 'pencil' : 'press';
}

/** How much ink lies across the middling stroke, a broad one counted by its depth: blur and distance spread ink out, but its sum stays. */
function strokeWeight(depth: Float32Array, width: number, height: number): number {
  const weights: number[] = [];
  const sumAlong = (i: number, step: number): number => {
    let sum = 0;
    for (let k = -ACROSS_PX; k <= ACROSS_PX; k++) sum += depth[i + k * step]!;
    return sum;
  };
  for (let y = ACROSS_PX; y < height - ACROSS_PX; y++) {
    for (let x = ACROSS_PX; x < width - ACROSS_PX; x++) {
      const i = y * width + x;
      const own = depth[i]!;
      if (own <= 1 - INK_SHARE) continue;
      const [down, along] = [sumAlong(i, width), sumAlong(i, 1)];
      // across a stroke there is less ink than along it
      const step = down < along ? width : 1;
      if (own < depth[i - step]! || own < depth[i + step]!) continue;
      const isDeep = (k: number): boolean => depth[i + k * step]! > FLAT_TOPPED * own;
      const flat = (isDeep(-1) && (isDeep(1) || isDeep(-2))) || (isDeep(1) && isDeep(2));
      weights.push(flat ? (own * PENCIL_WEIGHT) / PENCIL_DEPTH : Math.min(down, along));
    }
  }
  return quantile(weights, 0.5, 0);
}
