import type { PaperField } from '../light/paperField';
import type { Slip } from './findSlip';
import { createPixelImage, type PixelImage } from '../raster/pixelImage';
import { SLIP_KERNELS } from '../kernels/slipKernels';
import { FIRST_BYTE, roomFor, scratchKernels } from '../kernels/startKernels';
import { LEVEL_OF_LIGHT, LIGHT_OF_LEVEL, LIGHT_STEPS } from '../raster/transferCurve';

/*
 * Strokes that a slip of the hand drew out are drawn together again: the coverage of the page, which is what its lightness
 * misses from the paper in linear light, is deconvolved with the slip's line, and the channels follow it.
 * Method: Richardson (1972) and Lucy (1974), whose coverage is never less than nothing, so that bare paper stays bare. Tile by
 * tile, with a rim that is thrown away.
 */

const ITERATIONS = 10;
const TILE_PX = 448;
const RIM_PX = 32;
/** Coverage that is added while it is worked on: bare paper divides nothing by nothing. */
const GROUND = 0.01;
/** A pixel's ink at most grows to this many times what it was. */
const MOST_GAIN = 4;
/** Steps to a pixel when the line is drawn. */
const FINE = 12;
const LEAST_WEIGHT = 0.002;
const RED = 0.2126;
const GREEN = 0.7152;
const BLUE = 0.0722;

interface SlipKernels {
  smear(plane: number, out: number, first: number, last: number, taps: number, count: number, backwards: boolean): void;
  compare(seen: number, out: number, count: number): void;
  correct(sharp: number, correction: number, count: number, most: number): void;
}
const start = scratchKernels<SlipKernels>(SLIP_KERNELS);

interface Tap {
  readonly dx: number;
  readonly dy: number;
  readonly weight: number;
}

/** The line as weights of whole pixels around its middle, which add up to 1. */
function tapsOf({ lengthPx, angleRad }: Slip): Tap[] {
  const weights = new Map<string, number>();
  const count = Math.ceil(lengthPx * FINE);
  for (let i = 0; i < count; i++) {
    const along = ((i + 0.5) / count - 0.5) * lengthPx;
    const x = along * Math.cos(angleRad);
    const y = along * Math.sin(angleRad);
    const [left, top] = [Math.floor(x), Math.floor(y)];
    for (const [dx, dy] of [
      [left, top],
      [left + 1, top],
      [left, top + 1],
      [left + 1, top + 1],
    ] as const) {
      const key = `${dx} ${dy}`;
      weights.set(key, (weights.get(key) ?? 0) + ((1 - Math.abs(x - dx)) * (1 - Math.abs(y - dy))) / count);
    }
  }
  const taps = [...weights]
    .filter(([, weight]) => weight > LEAST_WEIGHT)
    .map(([key, weight]) => ({ dx: Number(key.split(' ')[0]), dy: Number(key.split(' ')[1]), weight }));
  const sum = taps.reduce((all, { weight }) => all + weight, 0);
  return taps.map((tap) => ({ ...tap, weight: tap.weight / sum }));
}

/**
 * Undoes a slip of the hand. Takes about a quarter of a second a megapixel.
 * @param page - RGB or grey; not altered
 * @param field - the brightness of its paper
 * @returns the page with its strokes drawn together
 */
export function undoSlip(page: PixelImage, field: PaperField, slip: Slip): PixelImage {
  const { width, height, channels, data } = page;
  const taps = tapsOf(slip);
  const out = createPixelImage(width, height, channels);
  out.data.set(data);
  const columns = 8 * Math.ceil((TILE_PX + 2 * RIM_PX) / 8);
  const count = columns * columns;
  // a whole row and a little more is free before and behind each plane: taps of its first and last rows reach beyond
  const reach = 4 * (columns * (Math.ceil(slip.lengthPx / 2) + 2) + 16);
  const planeBytes = roomFor(count) + 2 * reach;
  const tapsAt = FIRST_BYTE;
  const [seenAt, sharpAt, workAt, correctionAt] = [0, 1, 2, 3].map(
    (k) => tapsAt + roomFor(2 * taps.length) + k * planeBytes + reach,
  ) as [number, number, number, number];
  const { kernels, buffer } = start(correctionAt + planeBytes);
  taps.forEach(({ dx, dy, weight }, t) => {
    new Int32Array(buffer, tapsAt + 8 * t, 1)[0] = dy * columns + dx;
    new Float32Array(buffer, tapsAt + 8 * t + 4, 1)[0] = weight;
  });
  const view = (at: number): Float32Array => new Float32Array(buffer, at, count);
  const [seen, sharp] = [view(seenAt), view(sharpAt)];
  for (const at of [seenAt, sharpAt, workAt, correctionAt])
    new Float32Array(buffer, at - reach, (planeBytes - 64) / 4).fill(GROUND);
  // the paper in linear light, by place of the field: each channel's, and its lightness
  const papers = field.planes.map((plane) =>
    plane.map((level) => LIGHT_OF_LEVEL[Math.min(255, Math.max(0, Math.round(level)))]!),
  );
  const [red, green, blue] =
    channels === 1 ? [papers[0]!, papers[0]!, papers[0]!] : [papers[0]!, papers[1]!, papers[2]!];
  const lightest = red.map((value, i) => Math.max(1e-3, RED * value + GREEN * green[i]! + BLUE * blue[i]!));
  const columnOf = Int32Array.from({ length: width }, (_, x) =>
    Math.min(field.width - 1, Math.floor(((x + 0.5) * field.width) / width)),
  );
  const rowOf = (y: number): number =>
    Math.min(field.height - 1, Math.floor(((y + 0.5) * field.height) / height)) * field.width;
  const within = (at: number, size: number): number => Math.min(size - 1, Math.max(0, at));
  for (let top = 0; top < height; top += TILE_PX) {
    for (let left = 0; left < width; left += TILE_PX) {
      for (let j = 0, i = 0; j < columns; j++) {
        const y = within(top - RIM_PX + j, height);
        const fieldRow = rowOf(y);
        for (let k = 0; k < columns; k++, i++) {
          const x = within(left - RIM_PX + k, width);
          const at = (y * width + x) * channels;
          const lightness =
            channels === 1
              ? LIGHT_OF_LEVEL[data[at]!]!
              : RED * LIGHT_OF_LEVEL[data[at]!]! +
                GREEN * LIGHT_OF_LEVEL[data[at + 1]!]! +
                BLUE * LIGHT_OF_LEVEL[data[at + 2]!]!;
          const coverage = 1 - lightness / lightest[fieldRow + columnOf[x]!]!;
          seen[i] = sharp[i] = coverage > 0 ? GROUND + coverage : GROUND;
        }
      }
      for (let n = 0; n < ITERATIONS; n++) {
        kernels.smear(sharpAt, workAt, 0, count, tapsAt, taps.length, false);
        kernels.compare(seenAt, workAt, count);
        kernels.smear(workAt, correctionAt, 0, count, tapsAt, taps.length, true);
        kernels.correct(sharpAt, correctionAt, count, 1 + GROUND);
      }
      for (let y = top; y < Math.min(height, top + TILE_PX); y++) {
        const fieldRow = rowOf(y);
        for (let x = left; x < Math.min(width, left + TILE_PX); x++) {
          const i = (y - top + RIM_PX) * columns + x - left + RIM_PX;
          const grows = Math.min(MOST_GAIN, Math.max(0, sharp[i]! - GROUND) / seen[i]!);
          const f = fieldRow + columnOf[x]!;
          for (let c = 0; c < channels; c++) {
            const at = (y * width + x) * channels + c;
            const paper = papers[c]![f]!;
            const light = LIGHT_OF_LEVEL[data[at]!]!;
            if (light < paper)
              out.data[at] = LEVEL_OF_LIGHT[Math.max(0, (LIGHT_STEPS * (paper - (paper - light) * grows) + 0.5) | 0)]!;
          }
        }
      }
    }
  }
  return out;
}
