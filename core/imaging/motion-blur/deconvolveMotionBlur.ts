import { LUMINANCE } from '../raster/lightness';
import { fieldCells, type FieldCells } from '../light/fieldCells';
import { withWorkspace, type FloatSlot, type Workspace } from '../kernels/workspace';
import type { PaperField } from '../light/paperField';
import type { MotionBlur } from './motionBlur';
import { createPixelImage, type PixelImage } from '../raster/pixelImage';
import { LEVEL_OF_LIGHT, LIGHT_OF_LEVEL, LIGHT_STEPS } from '../raster/transferCurve';

/*
 * Strokes that a slip of the hand drew out are drawn together again: the coverage of the page, which is what its lightness
 * misses from the paper in linear light, is deconvolved with the slip's line, and the channels follow it.
 * Method: Richardson (1972) and Lucy (1974), whose coverage is never less than nothing, so that bare paper stays bare. Tile by
 * tile, with a rim that is thrown away.
 */

/** Steps of Richardson and Lucy's method: fewer leave blur, more bring out noise and rings. */
const ITERATIONS = 10;
/** Side of the tiles that are worked on, px: what stays in a processor's cache. */
const TILE_PX = 448;
/** What is read around a tile, px: more than the longest blur. */
const RIM_PX = 32;
/** Coverage that is added while it is worked on: bare paper divides nothing by nothing. */
const GROUND = 0.01;
/** A pixel's ink at most grows to this many times what it was. */
const MOST_GAIN = 4;
/** Steps to a pixel when the line is drawn. */
const FINE = 12;
/** A place of the line with less weight than this is left out. */
const LEAST_WEIGHT = 0.002;
const [RED, GREEN, BLUE] = LUMINANCE;

interface Tap {
  readonly dx: number;
  readonly dy: number;
  readonly weight: number;
}

/** The line as weights of whole pixels around its middle, which add up to 1. */
function tapsOf({ lengthPx, angleRad }: MotionBlur): Tap[] {
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
export function deconvolveMotionBlur(page: PixelImage, field: PaperField, slip: MotionBlur): PixelImage {
  const { width, height, channels, data } = page;
  const out = createPixelImage(width, height, channels);
  out.data.set(data);
  const paper = paperLightOf(page, field);
  withWorkspace((ws) => {
    const sharpen = startDeconvolution(ws, slip);
    for (let top = 0; top < height; top += TILE_PX) {
      for (let left = 0; left < width; left += TILE_PX) {
        const seen = coverageOf(page, paper, left, top);
        writeTile(page, paper, out, { left, top, seen, sharp: sharpen(seen) });
      }
    }
  });
  return out;
}

/** Columns, and rows, of a tile with its rim. */
const TILE_SIDE_PX = 8 * Math.ceil((TILE_PX + 2 * RIM_PX) / 8);
/** Samples of a tile with its rim. */
const TILE_SAMPLES = TILE_SIDE_PX ** 2;

/** @returns draws the coverage of a tile together; what it gives is void when it is called again */
function startDeconvolution(ws: Workspace, slip: MotionBlur): (seen: Float32Array) => Float32Array {
  const { kernels } = ws;
  const taps = tapsOf(slip);
  // a tap: how many samples further on it reads (a 32-bit integer), and its weight
  const tapSlot = ws.f32(2 * taps.length);
  const numbers = new DataView(new ArrayBuffer(8 * taps.length));
  taps.forEach(({ dx, dy, weight }, t) => {
    numbers.setInt32(8 * t, dy * TILE_SIDE_PX + dx, true);
    numbers.setFloat32(8 * t + 4, weight, true);
  });
  tapSlot.set(new Float32Array(numbers.buffer));
  // a whole row and a little more is free before and behind each plane: taps of its first and last rows reach beyond
  const reach = TILE_SIDE_PX * (Math.ceil(slip.lengthPx / 2) + 2) + 16;
  const plane = (): FloatSlot => {
    const slot = ws.f32(TILE_SAMPLES + 2 * reach);
    slot.fill(GROUND);
    return slot;
  };
  const [seen, sharp, work, correction] = [plane(), plane(), plane(), plane()];
  const [seenAt, sharpAt, workAt, correctionAt] = [
    seen.addressOf(reach),
    sharp.addressOf(reach),
    work.addressOf(reach),
    correction.addressOf(reach),
  ];
  return (coverage) => {
    seen.set(coverage, reach);
    sharp.set(coverage, reach);
    for (let n = 0; n < ITERATIONS; n++) {
      kernels.convolveTaps(sharpAt, workAt, 0, TILE_SAMPLES, tapSlot.at, taps.length, false);
      kernels.ratioTo(seenAt, workAt, TILE_SAMPLES);
      kernels.convolveTaps(workAt, correctionAt, 0, TILE_SAMPLES, tapSlot.at, taps.length, true);
      kernels.multiplyBy(sharpAt, correctionAt, TILE_SAMPLES, 1 + GROUND);
    }
    return sharp.copy(reach, reach + TILE_SAMPLES);
  };
}

/** The paper in linear light, by cell of the field: each channel's, and its lightness; and which cell a pixel lies in. */
interface PaperLight extends FieldCells {
  readonly channels: readonly Float32Array[];
  readonly lightness: Float32Array;
}

function paperLightOf(page: PixelImage, field: PaperField): PaperLight {
  const channels = field.planes.map((plane) =>
    plane.map((level) => LIGHT_OF_LEVEL[Math.min(255, Math.max(0, Math.round(level)))]!),
  );
  const [red, green, blue] = page.channels === 1 ? [0, 0, 0].map(() => channels[0]!) : channels;
  return {
    channels,
    lightness: red!.map((value, i) => Math.max(1e-3, RED * value + GREEN * green![i]! + BLUE * blue![i]!)),
    ...fieldCells(page, field),
  };
}

/** How much of the paper's light ink takes away over a tile and its rim; at the page's border the last pixel repeats. */
function coverageOf(
  { width, height, channels, data }: PixelImage,
  { lightness: papers, columnOf, rowOf }: PaperLight,
  left: number,
  top: number,
): Float32Array {
  const within = (at: number, size: number): number => Math.min(size - 1, Math.max(0, at));
  const out = new Float32Array(TILE_SAMPLES);
  for (let j = 0, i = 0; j < TILE_SIDE_PX; j++) {
    const y = within(top - RIM_PX + j, height);
    for (let k = 0; k < TILE_SIDE_PX; k++, i++) {
      const x = within(left - RIM_PX + k, width);
      const at = (y * width + x) * channels;
      const lightness =
        channels === 1
          ? LIGHT_OF_LEVEL[data[at]!]!
          : RED * LIGHT_OF_LEVEL[data[at]!]! +
            GREEN * LIGHT_OF_LEVEL[data[at + 1]!]! +
            BLUE * LIGHT_OF_LEVEL[data[at + 2]!]!;
      const coverage = 1 - lightness / papers[rowOf[y]! + columnOf[x]!]!;
      out[i] = coverage > 0 ? GROUND + coverage : GROUND;
    }
  }
  return out;
}

/** Writes a tile without its rim: in every channel what ink takes grows as its coverage did. */
function writeTile(
  { width, height, channels, data }: PixelImage,
  paper: PaperLight,
  out: PixelImage,
  tile: { readonly left: number; readonly top: number; readonly seen: Float32Array; readonly sharp: Float32Array },
): void {
  const { left, top, seen, sharp } = tile;
  for (let y = top; y < Math.min(height, top + TILE_PX); y++) {
    for (let x = left; x < Math.min(width, left + TILE_PX); x++) {
      const i = (y - top + RIM_PX) * TILE_SIDE_PX + x - left + RIM_PX;
      const grows = Math.min(MOST_GAIN, Math.max(0, sharp[i]! - GROUND) / seen[i]!);
      const cell = paper.rowOf[y]! + paper.columnOf[x]!;
      for (let c = 0; c < channels; c++) {
        const at = (y * width + x) * channels + c;
        const white = paper.channels[c]![cell]!;
        const light = LIGHT_OF_LEVEL[data[at]!]!;
        if (light < white)
          out.data[at] = LEVEL_OF_LIGHT[Math.max(0, (LIGHT_STEPS * (white - (white - light) * grows) + 0.5) | 0)]!;
      }
    }
  }
}
