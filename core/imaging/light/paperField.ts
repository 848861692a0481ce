import { fieldCells } from './fieldCells';
import { LUMA } from '../raster/lightness';
import type { PixelImage } from '../raster/pixelImage';
import { releaseBuffers } from '../raster/releaseBuffers';
import { estimateIlluminationField, meanLightness, type IlluminationField } from './illuminationField';
import { scaleByLightness } from './scaleByLightness';

/** The illumination field brought to the level of the paper itself, and how much its pixels scatter. */
export interface PaperField extends IlluminationField {
  /** Standard deviation of the paper's lightness as a share of the field, by place: dark places are noisier. */
  readonly noise: Float32Array;
}

/** Places are told apart by how bright they are, in this many groups of one size. */
const GROUPS = 5;
/** Step of the histogram of lightness beside the field. */
const SHARE_STEP = 0.005;
/** Its bins: up to one and a half times the field. */
const SHARE_BINS = 300;
/** Standard deviation of the calmest paper that is told, as a share of its lightness. */
export const LEAST_NOISE = 0.004;
/** Every so manieth pixel is counted. */
const SAMPLE_EVERY = 4;

/**
 * What white paper would show at every place. Closing takes the brightest of a neighbourhood, so the field lies above
 * the paper by as much as the photo is noisy; the commonest share of the field, seen in the page at its full detail,
 * says by how much, and the spread above it (where no ink is) how noisy.
 * @param page - flattened page, grey or RGB
 * @param field - its illumination field, where it is known already
 */
export function estimatePaperField(
  page: PixelImage,
  field: IlluminationField = estimateIlluminationField(page),
): PaperField {
  const lightness = meanLightness(field.planes);
  const sorted = new Float32Array(Math.ceil(lightness.length / 17));
  for (let k = 0; k < sorted.length; k++) sorted[k] = lightness[17 * k]!;
  sorted.sort();
  const bounds = Array.from(
    { length: GROUPS - 1 },
    (_, g) => sorted[Math.floor(((g + 1) * sorted.length) / GROUPS)] ?? 0,
  );
  const groupOf = Uint8Array.from({ length: 257 }, (_, level) => bounds.filter((b) => level >= b).length);
  const groups = countShares(page, field, lightness, groupOf);
  const known = groups
    .filter(({ n }) => n > 200)
    .map(({ counts, lightness: seen, sum, n }) => ({
      at: sum / n,
      modes: counts.map(modeOf),
      noise: spreadAbove(seen, modeOf(seen)),
    }));
  if (known.length === 0) return { ...field, noise: new Float32Array(lightness.length).fill(LEAST_NOISE) };
  const atLevel = Array.from({ length: 257 }, (_, level) => between(known, level));
  const [noise, ...planes] = scaleByLightness(
    [new Float32Array(lightness.length).fill(1), ...field.planes],
    lightness,
    [
      Float32Array.from(atLevel, (level) => level.noise),
      ...field.planes.map((_, c) => Float32Array.from(atLevel, (level) => level.modes[c]!)),
    ],
  );
  if (lightness !== field.planes[0]) releaseBuffers(lightness);
  return { ...field, planes, noise: noise! };
}

/** What is counted of the places of one group. */
interface Group {
  /** Histograms of samples beside the field, by channel, and of lightness. */
  readonly counts: readonly Uint32Array[];
  readonly lightness: Uint32Array;
  /** Of the field's lightness at its places, and how many they are. */
  sum: number;
  n: number;
}

function countShares(
  { width, height, channels, data }: PixelImage,
  field: IlluminationField,
  lightness: Float32Array,
  groupOf: Uint8Array,
): readonly Group[] {
  const { planes, nonPaper } = field;
  const weights = planes.length === 1 ? [1] : LUMA;
  const groups = Array.from({ length: GROUPS }, (): Group => ({
    counts: planes.map(() => new Uint32Array(SHARE_BINS)),
    lightness: new Uint32Array(SHARE_BINS),
    sum: 0,
    n: 0,
  }));
  const { columnOf, rowOf } = fieldCells({ width, height }, field);
  for (let y = SAMPLE_EVERY; y < height; y += 2 * SAMPLE_EVERY) {
    for (let x = SAMPLE_EVERY; x < width; x += SAMPLE_EVERY) {
      const at = rowOf[y]! + columnOf[x]!;
      if (nonPaper[at] === 1) continue;
      const bright = lightness[at]!;
      const group = groups[groupOf[levelOf(bright)]!]!;
      group.sum += bright;
      group.n++;
      let share = 0;
      for (let c = 0; c < planes.length; c++) {
        const own = data[(y * width + x) * channels + c]! / planes[c]![at]!;
        share += own * weights[c]!;
        group.counts[c]![binOf(own)]!++;
      }
      group.lightness[binOf(share)]!++;
    }
  }
  return groups;
}

/** The field lies a little above 255 where paper is nearly burnt out. */
const levelOf = (lightness: number): number => (lightness > 256 ? 256 : lightness | 0);
const binOf = (share: number): number => Math.min(SHARE_BINS - 1, Math.max(0, Math.round(share / SHARE_STEP)));

/** The commonest share among those that can be paper. */
function modeOf(counts: Uint32Array): number {
  let best = Math.round(1 / SHARE_STEP);
  let most = -1;
  for (let i = Math.round(0.7 / SHARE_STEP); i < SHARE_BINS - 4; i++) {
    let sum = 0;
    for (let k = -3; k <= 3; k++) sum += counts[i + k]! * (4 - Math.abs(k));
    if (sum > most) {
      most = sum;
      best = i;
    }
  }
  return best * SHARE_STEP;
}

/** Standard deviation, from the mean distance of what lies above the mode. */
function spreadAbove(counts: Uint32Array, mode: number): number {
  let sum = 0;
  let n = 0;
  for (let i = Math.round(mode / SHARE_STEP); i < SHARE_BINS; i++) {
    sum += counts[i]! * (i * SHARE_STEP - mode);
    n += counts[i]!;
  }
  return n === 0 ? LEAST_NOISE : Math.max(LEAST_NOISE, ((sum / n) * Math.sqrt(Math.PI / 2)) / mode);
}

function between(
  known: readonly { at: number; modes: readonly number[]; noise: number }[],
  level: number,
): { modes: number[]; noise: number } {
  const after = known.findIndex(({ at }) => at >= level);
  const a = known[after === -1 ? known.length - 1 : Math.max(0, after - 1)]!;
  const b = known[after === -1 ? known.length - 1 : after]!;
  const t = b.at - a.at < 1e-6 ? 0 : Math.min(1, Math.max(0, (level - a.at) / (b.at - a.at)));
  return { modes: a.modes.map((m, c) => m + (b.modes[c]! - m) * t), noise: a.noise + (b.noise - a.noise) * t };
}
