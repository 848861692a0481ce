import { LEVEL_OF_LIGHT, LIGHT_OF_LEVEL, LIGHT_STEPS } from '../../imaging/raster/transferCurve';
import { pixelImageFrom, type PixelImage } from '../../imaging/raster/pixelImage';

/*
 * Phones store HEIC photos in the colours of Display P3, which reach further than sRGB's. The decoder for HEIC gives the numbers
 * as they are stored; browsers and sharp convert those of all other kinds themselves.
 */

/** The colour property of a HEIC file (ISO 14496-12, 12.1.5) stands among its first bytes, before its pictures. */
const HEAD_BYTES = 1 << 17;
/** Colour primaries of Display P3 by number (ITU-T H.273, table 2: SMPTE EG 432-1). */
const P3_PRIMARIES = 12;
/** Display P3's red in the space of ICC profiles, X and Y under D50. */
const P3_RED = [0.5151, 0.2412] as const;
/** sRGB's red is at 0.4361, 0.2225: nearer than this is P3's. */
const NEAR_RED = 0.02;

const textAt = (bytes: Uint8Array, at: number): string => String.fromCharCode(...bytes.subarray(at, at + 4));

/** Whether a HEIC file tells that its colours are those of Display P3: by number, or by an ICC profile. */
export function isDisplayP3(heic: Uint8Array): boolean {
  const head = heic.subarray(0, HEAD_BYTES);
  const view = new DataView(head.buffer, head.byteOffset, head.byteLength);
  for (let at = 4; at + 16 < head.length; at++) {
    if (head[at] !== 0x63 || textAt(head, at) !== 'colr') continue;
    const kind = textAt(head, at + 4);
    if (kind === 'nclx' && view.getUint16(at + 8) === P3_PRIMARIES) return true;
    if ((kind === 'prof' || kind === 'rICC') && hasRedOfP3(head.subarray(at + 8))) return true;
  }
  return false;
}

/** Looks up the red colorant of an ICC profile (ICC.1:2022, 7.3 and 9.2.46): numbers of 16 bits before and 16 behind the point. */
function hasRedOfP3(profile: Uint8Array): boolean {
  const view = new DataView(profile.buffer, profile.byteOffset, profile.byteLength);
  if (profile.length < 132) return false;
  const tags = Math.min(view.getUint32(128), 100);
  for (let k = 0; k < tags && 144 + 12 * k <= profile.length; k++) {
    if (textAt(profile, 132 + 12 * k) !== 'rXYZ') continue;
    const offset = view.getUint32(136 + 12 * k);
    if (offset + 16 > profile.length) return false;
    return P3_RED.every((value, i) => Math.abs(view.getInt32(offset + 8 + 4 * i) / 65536 - value) < NEAR_RED);
  }
  return false;
}

/** From linear Display P3 to linear sRGB, both under D65 (CSS Color 4, section 10.10). */
const TO_SRGB = [
  1.2249401762805598, -0.22494017628055996, 0, -0.042056954709688163, 1.0420569547096881, 0, -0.019637554590334432,
  -0.078636045550631889, 1.0982736001409663,
] as const;

/**
 * Converts a picture from Display P3 to sRGB; what lies outside sRGB becomes its nearest level.
 * @param image - RGB or RGBA; left as it is
 */
export function displayP3ToSrgb({ width, height, channels, data }: PixelImage): PixelImage {
  const out = data.slice();
  const levelOf = (light: number): number => LEVEL_OF_LIGHT[Math.round(Math.min(1, Math.max(0, light)) * LIGHT_STEPS)]!;
  for (let at = 0; at < out.length; at += channels) {
    const [r, g, b] = [LIGHT_OF_LEVEL[data[at]!]!, LIGHT_OF_LEVEL[data[at + 1]!]!, LIGHT_OF_LEVEL[data[at + 2]!]!];
    out[at] = levelOf(TO_SRGB[0] * r + TO_SRGB[1] * g);
    out[at + 1] = levelOf(TO_SRGB[3] * r + TO_SRGB[4] * g);
    out[at + 2] = levelOf(TO_SRGB[6] * r + TO_SRGB[7] * g + TO_SRGB[8] * b);
  }
  return pixelImageFrom(width, height, channels, out);
}
