import { lumaOf } from '../raster/lightness';
import { createPixelImage, type PixelImage } from '../raster/pixelImage';
import type { LightSettings } from './finishSettings';

/** How far brightness bends the tones at its ends: middle grey goes to 2 to the power of this times as bright in exponent. */
const BRIGHTNESS_SPAN = 1.1;
/** How much steeper contrast makes the middle of the tones at its end: 2 to the power of twice this. */
const CONTRAST_SPAN = 0.7;
/** The tone that contrast leaves as it is, 0 to 1: a little above middle grey, as paper takes up most of a page. */
const MIDDLE = 0.55;
/** How much of the difference to its surroundings a pixel gains at full sharpness. */
const SHARPNESS_SPAN = 1.4;

/**
 * Sets strength, brightness, contrast, colour and sharpness on a finished page; returns it as it is where nothing is set.
 * @param finished - grey or RGB
 * @param plain - the flat page before the finish, same size: strength below 1 goes back towards it
 */
export function adjustTones(
  finished: PixelImage,
  plain: PixelImage,
  { strength, brightness, contrast, colour, sharpness }: LightSettings,
): PixelImage {
  if (strength === 1 && brightness === 0 && contrast === 0 && colour === 0 && sharpness === 0) return finished;
  const { width, height, channels } = finished;
  const out = createPixelImage(width, height, channels);
  const { data } = out;
  data.set(finished.data);
  if (strength < 1 && finished !== plain) mixBack(out, plain, strength);
  if (sharpness > 0) sharpen(out, sharpness * SHARPNESS_SPAN);
  if (brightness !== 0 || contrast !== 0) {
    const tone = toneCurve(brightness, contrast);
    for (let i = 0; i < data.length; i++) data[i] = tone[data[i]!]!;
  }
  if (colour !== 0 && channels === 3) {
    const factor = colour < 0 ? 1 + colour : 1 + 1.5 * colour;
    for (let i = 0; i < data.length; i += 3) {
      const grey = lumaOf(data[i]!, data[i + 1]!, data[i + 2]!);
      data[i] = grey + (data[i]! - grey) * factor;
      data[i + 1] = grey + (data[i + 1]! - grey) * factor;
      data[i + 2] = grey + (data[i + 2]! - grey) * factor;
    }
  }
  return out;
}

function mixBack({ data, channels }: PixelImage, plain: PixelImage, strength: number): void {
  for (let i = 0, from = 0; i < data.length; i += channels, from += plain.channels) {
    for (let c = 0; c < channels; c++) {
      const was =
        channels === plain.channels
          ? plain.data[from + c]!
          : lumaOf(plain.data[from]!, plain.data[from + 1]!, plain.data[from + 2]!);
      data[i + c] = was + (data[i + c]! - was) * strength;
    }
  }
}

/** Black and white stay where they are; what lies between moves. */
function toneCurve(brightness: number, contrast: number): Uint8ClampedArray {
  const gamma = 2 ** (-brightness * BRIGHTNESS_SPAN);
  const steep = 2 ** (contrast * CONTRAST_SPAN * 2);
  return Uint8ClampedArray.from({ length: 256 }, (_, i) => {
    const v = (i / 255) ** gamma;
    // two power curves that meet in the middle: steeper there for more contrast, flatter for less
    const bent = v < MIDDLE ? MIDDLE * (v / MIDDLE) ** steep : 1 - (1 - MIDDLE) * ((1 - v) / (1 - MIDDLE)) ** steep;
    return 255 * bent;
  });
}

/** Unsharp mask with a 3 × 3 binomial blur, on all channels alike. */
function sharpen({ width, height, channels, data }: PixelImage, amount: number): void {
  const stride = width * channels;
  const source = data.slice();
  for (let y = 1; y < height - 1; y++) {
    for (let x = channels, at = y * stride + channels; x < stride - channels; x++, at++) {
      const v = source[at]!;
      const blurred =
        (source[at - stride - channels]! +
          source[at - stride + channels]! +
          source[at + stride - channels]! +
          source[at + stride + channels]! +
          2 * (source[at - stride]! + source[at + stride]! + source[at - channels]! + source[at + channels]!) +
          4 * v) /
        16;
      data[at] = v + (v - blurred) * amount * 2;
    }
  }
}
