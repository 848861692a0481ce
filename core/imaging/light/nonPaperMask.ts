import { boxBlur } from '../raster/boxBlur';
import { closePlane } from '../raster/morphology';
import { quantile } from '../raster/quantile';

/** Half a square wider than any stroke, px of the coarse copy: 3.7 mm of A4 in all. */
export const STROKE_RADIUS_PX = 6;
/** Half the square in which the brightest paper nearby is sought, px of the coarse copy: a third of a page in all. */
const ENVELOPE_RADIUS_PX = 110;
/** Below this share of the brightest paper nearby a dark place is no paper, and not in shadow (8-bit values, not light). */
const DARKEST_SHADOW = 0.38;
/** A place is no paper, whatever is written on it, where so much of what is around it is that dark. */
const MOSTLY_DARK = 0.45;
/** Colour difference from the paper around it, as a share of brightness, that no shadow makes. */
const MIN_TINT = 0.11;
/** A tinted place is no paper only where it is darker than this share of the brightest paper nearby. */
const TINTED_BELOW = 0.93;
/** Every so manieth sample is read for the paper's colour. */
const COLOUR_STEP = 7;
/** Where it is brighter than this share of the brightest nearby. */
const BRIGHT_FROM = 0.75;

/**
 * What lies on the paper and is wide and dark, or coloured: a picture, a filled box, a printed banner.
 * @param planes - the page's channels, width × height, on the 8-bit scale
 * @param closed - the same, closed over strokes
 * @returns 1 where the closed picture shows no paper, else 0
 */
export function findNonPaper(
  planes: readonly Float32Array[],
  closed: readonly Float32Array[],
  width: number,
  height: number,
): Uint8Array {
  const lightness = meanOf(closed);
  const envelope = closePlane(lightness, width, height, ENVELOPE_RADIUS_PX);
  const paper = medianColour(closed, lightness, envelope);
  const out = new Uint8Array(width * height);
  for (let i = 0; i < out.length; i++) {
    const l = lightness[i]!;
    if (l < DARKEST_SHADOW * envelope[i]!) out[i] = 1;
    else if (closed.length === 3 && l < TINTED_BELOW * envelope[i]!) {
      const red = closed[0]![i]! / (l + 1) - paper[0]!;
      const green = closed[1]![i]! / (l + 1) - paper[1]!;
      const blue = closed[2]![i]! / (l + 1) - paper[2]!;
      if (red * red + green * green + blue * blue > MIN_TINT * MIN_TINT) out[i] = 1;
    }
  }
  // pale writing on a dark box closes to a grey that passes for shadow; more of the box is dark all the same
  const dark = boxBlur(
    meanOf(planes).map((l, i) => (l < DARKEST_SHADOW * envelope[i]! ? 1 : 0)),
    width,
    height,
    { radius: STROKE_RADIUS_PX },
  );
  for (let i = 0; i < out.length; i++) if (dark[i]! > MOSTLY_DARK) out[i] = 1;
  return out.includes(1) ? grow(out, width, height) : out;
}

function meanOf(planes: readonly Float32Array[]): Float32Array {
  if (planes.length === 1) return planes[0]!;
  const [r, g, b] = planes as [Float32Array, Float32Array, Float32Array];
  const out = new Float32Array(r.length);
  for (let i = 0; i < out.length; i++) out[i] = (r[i]! + g[i]! + b[i]!) / 3;
  return out;
}

/** What lies on the paper has a blurred rim, which is neither it nor paper. */
function grow(mask: Uint8Array, width: number, height: number): Uint8Array {
  const out = mask.slice();
  const reach = STROKE_RADIUS_PX / 2;
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      if (mask[y * width + x] === 0) continue;
      for (let dy = -reach; dy <= reach; dy++) {
        for (let dx = -reach; dx <= reach; dx++) {
          const xx = x + dx;
          const yy = y + dy;
          if (xx >= 0 && yy >= 0 && xx < width && yy < height) out[yy * width + xx] = 1;
        }
      }
    }
  }
  return out;
}

/** The paper's colour as channel over mean, from the brighter half of the page. */
function medianColour(closed: readonly Float32Array[], lightness: Float32Array, envelope: Float32Array): number[] {
  const bright: number[] = [];
  for (let i = 0; i < lightness.length; i += COLOUR_STEP)
    if (lightness[i]! > BRIGHT_FROM * envelope[i]!) bright.push(i);
  const shares = new Float32Array(bright.length);
  return closed.map((plane) => {
    for (let k = 0; k < shares.length; k++) shares[k] = plane[bright[k]!]! / (lightness[bright[k]!]! + 1);
    return quantile(shares, 0.5, 1);
  });
}
