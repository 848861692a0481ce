import { forEachGainRow, toneRow } from '../light/paperShare';
import { boxBlur } from '../raster/boxBlur';
import { createPixelImage, type PixelImage } from '../raster/pixelImage';
import type { LitPage } from './litPage';
import { smoothGrain } from './inkPlane';
import { pictureWeight } from './pictureWeight';

/*
 * Daylight: white paper, true colours.
 * 1. The paper is divided out channel by channel, which takes shadows and the lamp's colour away.
 * 2. A blurred stroke is paper and ink mixed in linear light: (1 - ink) × coverage is missing from white in each channel,
 *    and the ratio between channels does not depend on coverage. So the coverage is restored, sharper and firmer, from
 *    the lightness, and all channels scaled alike: thin strokes get their weight back and keep their hue.
 * 3. Pictures keep their own tones.
 */

/** Paper grain and noise reach this many standard deviations below the paper: from there up everything is white. */
const NOISE_BELOW_WHITE = 1.5;
/** Where the noise is slight, paper becomes white from this share of its own level on. */
const WHITE_SHARE = 0.98;
const LOWEST_WHITE = 0.8;
/** How much of the difference to its neighbours a stroke gains. */
const SHARPENED = 3.5;
/** Coverage c comes out as 1 - (1 - c) to the power of this: strokes too thin for the lens get their weight back. */
const FIRMNESS = 2.1;
/** From this size on an ink's colour is gathered in cells of 4 × 4 pixels, below in cells of 2 × 2; over about 11 px either way. */
const LARGE_LONG_SIDE_PX = 1600;
/** The darkest ink still sends some light back. */
const DEEPEST = 0.98;
/** Full coverage of a strong ink would clip its darker channels, and with them its hue. */
const COLOUR_GAIN = 0.94;
/** Difference from grey, as a share of the ink's depth, up to which it is taken for black, and from which for a colour. */
const NEUTRAL_TO = 0.04;
const COLOURED_FROM = 0.16;
/** Linear light in as many steps as keep the darkest tones apart. */
const LINEAR_STEPS = 4095;

const toLinear = (coded: number): number => (coded <= 0.04045 ? coded / 12.92 : ((coded + 0.055) / 1.055) ** 2.4);
const toCoded = (linear: number): number => (linear <= 0.0031308 ? linear * 12.92 : 1.055 * linear ** (1 / 2.4) - 0.055);
const LINEAR = Float32Array.from({ length: 256 }, (_, v) => toLinear(v / 255));
const CODED = Uint8ClampedArray.from({ length: LINEAR_STEPS + 1 }, (_, i) => 255 * toCoded(i / LINEAR_STEPS));

/**
 * Lights a page as Daylight.
 * @returns RGB (grey stays grey), the page's size
 */
export function daylight({ page, field, detail }: LitPage): PixelImage {
  const { width, height, channels, data } = page;
  const colours = channels === 1 ? 1 : 3;
  const out = createPixelImage(width, height, colours);
  const planes = field.planes.map((plane) => {
    const white = new Float32Array(plane.length);
    for (let i = 0; i < white.length; i++) white[i] = plane[i]! * Math.max(LOWEST_WHITE, Math.min(WHITE_SHARE, 1 - NOISE_BELOW_WHITE * field.noise[i]!));
    return white;
  });
  const level = Uint8ClampedArray.from({ length: 1021 }, (_, i) => i / 4);
  forEachGainRow(page, planes, field, 1020, (y, gains) => {
    for (let c = 0; c < colours; c++) toneRow(data, y * width * channels + c, channels, gains[c]!, level, out.data, y * width * colours + c, colours);
  });
  const pictures = pictureWeight(field);
  const natural = pictures === null ? null : out.data.slice();
  restoreCoverage(out, detail);
  if (pictures !== null && natural !== null) layBack(out, natural, pictures, field);
  return out;
}

function restoreCoverage(page: PixelImage, detail: number): void {
  const { width, height, channels, data } = page;
  const depth = new Uint8ClampedArray(width * height);
  for (let i = 0, at = 0; i < depth.length; i++, at += channels) {
    // most of a page is bare
    if (data[at] === 255 && (channels === 1 || (data[at + 1] === 255 && data[at + 2] === 255))) continue;
    const light = channels === 1 ? LINEAR[data[at]!]! : 0.3 * LINEAR[data[at]!]! + 0.59 * LINEAR[data[at + 1]!]! + 0.11 * LINEAR[data[at + 2]!]!;
    depth[i] = 255 - 255 * light;
  }
  const smooth = smoothGrain({ width, height, depth });
  // a smaller copy has lost the blur that is to be undone
  const sharpened = SHARPENED * detail * detail;
  const firmness = 1 + (FIRMNESS - 1) * detail;
  const firmed = Float32Array.from({ length: 1025 }, (_, i) => DEEPEST * (1 - (1 - i / 1024) ** firmness));
  const ink = channels === 1 ? null : inkColours(page);
  for (let y = 0, i = 0, at = 0; y < height; y++) {
    const inkRow = ink === null ? 0 : (y >> ink.shift) * ink.width;
    for (let x = 0; x < width; x++, i++, at += channels) {
      const seen = depth[i]!;
      if (seen === 0) continue;
      const sharp = seen + sharpened * (seen - smooth[i]!);
      let cover = firmed[sharp <= 0 ? 0 : sharp >= 255 ? 1024 : (sharp * 4.0157) | 0]!;
      if (ink === null) {
        data[at] = CODED[((1 - cover) * LINEAR_STEPS) | 0]!;
        continue;
      }
      const from = inkRow + (x >> ink.shift);
      // no channel is taken away wholly: that would turn the hue
      if (cover > ink.most[from]!) cover = ink.most[from]!;
      const red = 1 - cover * ink.red[from]!;
      const green = 1 - cover * ink.green[from]!;
      const blue = 1 - cover * ink.blue[from]!;
      data[at] = CODED[red <= 0 ? 0 : red >= 1 ? LINEAR_STEPS : (red * LINEAR_STEPS) | 0]!;
      data[at + 1] = CODED[green <= 0 ? 0 : green >= 1 ? LINEAR_STEPS : (green * LINEAR_STEPS) | 0]!;
      data[at + 2] = CODED[blue <= 0 ? 0 : blue >= 1 ? LINEAR_STEPS : (blue * LINEAR_STEPS) | 0]!;
    }
  }
}

/** How much of white the ink takes away in each channel, beside its lightness, in square cells. */
interface InkColours {
  readonly width: number;
  /** A cell's side is 2 to the power of this, px. */
  readonly shift: number;
  readonly red: Float32Array;
  readonly green: Float32Array;
  readonly blue: Float32Array;
  /** The coverage at which the channel that it takes most of is all but gone. */
  readonly most: Float32Array;
}

/**
 * The ink's colour around every place. A camera keeps colour in fewer pixels than lightness, so across a thin stroke it runs
 * into the paper; but blur takes nothing away from sums. So colours are read from sums over a few pixels, which calms their
 * noise too.
 */
function inkColours({ width, height, data }: PixelImage): InkColours {
  const shift = Math.max(width, height) > LARGE_LONG_SIDE_PX ? 2 : 1;
  const w = (width >> shift) + 1;
  const h = (height >> shift) + 1;
  const sums = [new Float32Array(w * h), new Float32Array(w * h), new Float32Array(w * h)] as const;
  const [reds, greens, blues] = sums;
  for (let y = 0, at = 0; y < height; y++) {
    const row = (y >> shift) * w;
    for (let x = 0; x < width; x++, at += 3) {
      const r = data[at]!;
      const g = data[at + 1]!;
      const b = data[at + 2]!;
      if (r === 255 && g === 255 && b === 255) continue;
      const to = row + (x >> shift);
      reds[to]! += 255 - r;
      greens[to]! += 255 - g;
      blues[to]! += 255 - b;
    }
  }
  const [red, green, blue] = sums.map((plane) => boxBlur(plane, w, h, shift === 2 ? 1 : 2, 1)) as [Float32Array, Float32Array, Float32Array];
  const most = new Float32Array(red.length);
  for (let i = 0; i < red.length; i++) {
    const lightness = 0.3 * red[i]! + 0.59 * green[i]! + 0.11 * blue[i]! + 1e-6;
    const r = red[i]! / lightness - 1;
    const g = green[i]! / lightness - 1;
    const b = blue[i]! / lightness - 1;
    const colour = Math.max(Math.abs(r), Math.abs(g), Math.abs(b));
    // black ink under a lamp keeps a breath of it, where its colour ran into the paper
    const gain = COLOUR_GAIN * Math.min(1, Math.max(0, (colour - NEUTRAL_TO) / (COLOURED_FROM - NEUTRAL_TO)));
    red[i] = 1 + gain * r;
    green[i] = 1 + gain * g;
    blue[i] = 1 + gain * b;
    most[i] = DEEPEST / Math.max(red[i]!, green[i]!, blue[i]!);
  }
  return { width: w, shift, red, green, blue, most };
}

/** Where a picture lies, what it was before strokes were restored. */
function layBack({ width, height, channels, data }: PixelImage, natural: Uint8ClampedArray, weights: Float32Array, field: { readonly width: number; readonly height: number }): void {
  for (let y = 0; y < height; y++) {
    const row = Math.floor(((y + 0.5) * field.height) / height) * field.width;
    if (!weights.subarray(row, row + field.width).some((weight) => weight > 0)) continue;
    for (let x = 0; x < width; x++) {
      const weight = weights[row + Math.floor(((x + 0.5) * field.width) / width)]!;
      if (weight === 0) continue;
      for (let c = 0, at = (y * width + x) * channels; c < channels; c++, at++) data[at] = data[at]! * (1 - weight) + natural[at]! * weight;
    }
  }
}
