import { extremeFilter } from '../core/imaging/raster/morphology';
import type { PixelImage } from '../core/imaging/raster/pixelImage';
import { lightnessPlane } from '../core/imaging/raster/plane';

/** Px around ink, and around ruled lines, that count neither as paper nor as ink. */
const CLEARANCE_PX = 3;
/** Share of the page along its sides that is not judged: there the photo's own geometry decides. */
const RIM = 0.012;
/** A clean page's paper is one tone; what is darker by this many levels and no ink is a ruled line. */
const RULED_LEVELS = 4;

const grown = (plane: Float32Array, { width, height }: PixelImage, radius: number): Float32Array =>
  extremeFilter(plane, width, height, { extreme: 'largest', radius });
const maskOf = (image: PixelImage, test: (i: number) => boolean): Float32Array =>
  Float32Array.from({ length: image.width * image.height }, (_, i) => (test(i) ? 1 : 0));

function paperTone(lightness: Float32Array): number {
  const counts = new Uint32Array(256);
  for (let i = 0; i < lightness.length; i += 3) counts[Math.round(lightness[i]!)]!++;
  return counts.indexOf(Math.max(...counts));
}

const inRim = (i: number, { width, height }: PixelImage): boolean => {
  const x = (i % width) / width;
  const y = Math.floor(i / width) / height;
  return x < RIM || y < RIM || x > 1 - RIM || y > 1 - RIM;
};

/** Ruled lines of the clean page: darker than paper, and no ink. */
function ruledOf(clean: PixelImage, ink: PixelImage): Float32Array {
  const { data } = lightnessPlane(clean);
  const tone = paperTone(data);
  return maskOf(clean, (i) => data[i]! < tone - RULED_LEVELS && ink.data[i]! < 20);
}

/** The bare paper of a finished page: median luminance, standard deviation as a share of 255, 5th percentile. */
export function backgroundOf(
  page: PixelImage,
  clean: PixelImage,
  ink: PixelImage,
): { median: number; deviation: number; low: number } {
  const ruled = ruledOf(clean, ink);
  const taken = grown(
    maskOf(clean, (i) => ink.data[i]! > 8 || ruled[i]! > 0),
    clean,
    CLEARANCE_PX,
  );
  const { data } = lightnessPlane(page);
  const values: number[] = [];
  for (let i = 0; i < data.length; i += 5) if (taken[i] === 0 && !inRim(i, page)) values.push(data[i]!);
  values.sort((a, b) => a - b);
  const average = values.reduce((a, b) => a + b, 0) / values.length;
  return {
    median: values[values.length >> 1] ?? 0,
    deviation: Math.sqrt(values.reduce((sum, v) => sum + (v - average) ** 2, 0) / values.length) / 255,
    low: values[Math.floor(values.length * 0.05)] ?? 0,
  };
}

export interface HueError {
  readonly ink: 'blue' | 'red';
  readonly degrees: number;
  /** Saturation over the clean page's. */
  readonly saturation: number;
  /** Brightness of the ink less the clean page's, HSV value in levels. */
  readonly lighter: number;
}

/** How the mean colour of the middle of blue and of red strokes differs from the clean page's. */
export function hueErrors(page: PixelImage, clean: PixelImage, ink: PixelImage): HueError[] {
  if (page.channels === 1) return [];
  const sums = { blue: new Float64Array(7), red: new Float64Array(7) };
  for (let i = 0; i < ink.data.length; i++) {
    if (ink.data[i]! < 250) continue;
    const [r, g, b] = [clean.data[i * 3]!, clean.data[i * 3 + 1]!, clean.data[i * 3 + 2]!];
    const which = b > r + 50 && b > g + 40 ? 'blue' : r > g + 60 && r > b + 60 ? 'red' : null;
    if (which === null) continue;
    const sum = sums[which];
    sum[6]!++;
    for (let c = 0; c < 3; c++) {
      sum[c]! += clean.data[i * 3 + c]!;
      sum[3 + c]! += page.data[i * 3 + c]!;
    }
  }
  return (['blue', 'red'] as const).flatMap((name) => {
    const sum = sums[name];
    if (sum[6]! < 400) return [];
    const truth = hueAndSaturation(sum[0]!, sum[1]!, sum[2]!);
    const found = hueAndSaturation(sum[3]!, sum[4]!, sum[5]!);
    const off = Math.abs(truth.hue - found.hue) % 360;
    return [
      {
        ink: name,
        degrees: Math.min(off, 360 - off),
        saturation: found.saturation / truth.saturation,
        lighter: Math.max(sum[3]!, sum[4]!, sum[5]!) / sum[6]! - Math.max(sum[0]!, sum[1]!, sum[2]!) / sum[6]!,
      },
    ];
  });
}

/** HSV hue in degrees and saturation; any scale. */
function hueAndSaturation(r: number, g: number, b: number): { hue: number; saturation: number } {
  const high = Math.max(r, g, b);
  const span = high - Math.min(r, g, b);
  const sector = high === r ? (g - b) / span : high === g ? 2 + (b - r) / span : 4 + (r - g) / span;
  return { hue: sector * 60, saturation: span / Math.max(1, high) };
}

/** F-measure of a bilevel page's ink with 1 px tolerance, and how much of the true ink is there; ruled lines count neither way. */
export function maskScore(page: PixelImage, clean: PixelImage, ink: PixelImage): { f: number; recall: number } {
  const truth = maskOf(page, (i) => ink.data[i]! > 127);
  const found = maskOf(page, (i) => page.data[i * page.channels]! < 128);
  const ruled = grown(ruledOf(clean, ink), page, 2);
  const nearTruth = grown(
    maskOf(page, (i) => ink.data[i]! > 60),
    page,
    1,
  );
  const nearFound = grown(found, page, 1);
  let [hit, all, right, called] = [0, 0, 0, 0];
  for (let i = 0; i < truth.length; i++) {
    if (inRim(i, page)) continue;
    if (truth[i] === 1) {
      all++;
      hit += nearFound[i]!;
    }
    if (found[i] === 1 && (nearTruth[i] === 1 || ruled[i] === 0)) {
      called++;
      right += nearTruth[i]!;
    }
  }
  const recall = all === 0 ? 1 : hit / all;
  const precision = called === 0 ? 1 : right / called;
  return { f: recall + precision === 0 ? 0 : (2 * recall * precision) / (recall + precision), recall };
}
