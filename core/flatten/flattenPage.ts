import { homographyBetween } from '../geometry/homography';
import { recoverProportions } from '../geometry/aspectRatio';
import { distance } from '../geometry/point';
import { polygonArea, scaleQuad, wholePicture, type Quad } from '../geometry/quad';
import { halveImage } from '../raster/halveImage';
import { createPixelImage, type PixelImage } from '../raster/pixelImage';
import { snapAspect } from './standardAspect';

export interface FlatSize {
  readonly width: number;
  readonly height: number;
}

/**
 * The size in px at which the flat page shows all the detail the photo has, and no invented pixels: its longest sides in
 * the photo, in the page's true proportions (snapped to a standard sheet where they are within its tolerance).
 * @param quad - outline in photo pixels; photo size in px
 * @throws FotoplanError OUTLINE_DEGENERATE when three corners lie on one line
 */
export function naturalSize(quad: Quad, photoWidth: number, photoHeight: number, focalShare?: number): FlatSize {
  const [tl, tr, br, bl] = quad;
  const across = Math.max(distance(tl, tr), distance(bl, br));
  const down = Math.max(distance(tl, bl), distance(tr, br));
  const whole = Math.abs(polygonArea(quad) - photoWidth * photoHeight) < 1 && across * down < photoWidth * photoHeight + 1;
  const aspect = whole ? across / down : snapAspect(recoverProportions(quad, photoWidth, photoHeight, focalShare).aspect);
  const height = Math.max(down, across / aspect);
  return { width: Math.max(1, Math.round(height * aspect)), height: Math.max(1, Math.round(height)) };
}

/** The size reduced so that its long side is at most this; never enlarged. */
export function limitLongSide({ width, height }: FlatSize, longSidePx: number): FlatSize {
  const factor = Math.min(1, longSidePx / Math.max(width, height));
  return { width: Math.max(1, Math.round(width * factor)), height: Math.max(1, Math.round(height * factor)) };
}

/**
 * Lays the page flat: every output pixel is looked up through the homography from page to photo.
 * Method: backward warping with bilinear interpolation. Where the output is smaller than the photo's detail, the photo is
 * first halved (2×2 means) as often as fits, and what is left of the step up to 2 is averaged over a 2×2 grid of looks
 * in each output pixel, so that fine print does not alias.
 * Limits: a flat sheet; the sides are taken as straight. Beyond the photo's border its last pixels repeat as white.
 * @param photo - 3 or 4 channels (a fourth is dropped) or grey
 * @param quad - outline in photo pixels, TL, TR, BR, BL as the page is read
 * @returns RGB (grey stays grey) of the size asked for
 * @throws FotoplanError OUTLINE_DEGENERATE when three corners lie on one line
 */
export function flattenPage(photo: PixelImage, quad: Quad, size: FlatSize): PixelImage {
  let source = photo;
  let outline = quad;
  const detail = Math.sqrt(Math.abs(polygonArea(quad)) / (size.width * size.height));
  let step = detail;
  while (step >= 2) {
    source = halveImage(source);
    outline = scaleQuad(outline, 0.5);
    step /= 2;
  }
  const channels = photo.channels === 1 ? 1 : 3;
  const out = createPixelImage(size.width, size.height, channels);
  const h = homographyBetween(wholePicture(size.width, size.height), outline);
  warpInto(out, source, h, step > 1.2 ? 2 : 1);
  return out;
}

const PAPER_WHITE = 255;

function warpInto(out: PixelImage, source: PixelImage, h: readonly number[], looks: 1 | 2): void {
  const { width, height, data, channels: from } = source;
  const { channels } = out;
  const share = 1 / (looks * looks);
  const lowX = -0.5;
  const lowY = -0.5;
  let to = 0;
  const sum = new Float32Array(3);
  for (let y = 0; y < out.height; y++) {
    for (let x = 0; x < out.width; x++) {
      sum[0] = sum[1] = sum[2] = 0;
      for (let look = 0; look < looks * looks; look++) {
        const px = looks === 1 ? x + 0.5 : x + 0.25 + 0.5 * (look & 1);
        const py = looks === 1 ? y + 0.5 : y + 0.25 + 0.5 * (look >> 1);
        const w = 1 / (h[6]! * px + h[7]! * py + h[8]!);
        const sx = (h[0]! * px + h[1]! * py + h[2]!) * w - 0.5;
        const sy = (h[3]! * px + h[4]! * py + h[5]!) * w - 0.5;
        if (!(sx >= lowX - 1 && sy >= lowY - 1 && sx <= width + 0.5 && sy <= height + 0.5)) {
          for (let c = 0; c < channels; c++) sum[c]! += PAPER_WHITE;
          continue;
        }
        const cx = sx < 0 ? 0 : sx > width - 1 ? width - 1 : sx;
        const cy = sy < 0 ? 0 : sy > height - 1 ? height - 1 : sy;
        const xi = cx | 0;
        const yi = cy | 0;
        const fx = cx - xi;
        const fy = cy - yi;
        const i00 = (yi * width + xi) * from;
        const i10 = xi + 1 < width ? i00 + from : i00;
        const down = yi + 1 < height ? width * from : 0;
        const a = (1 - fx) * (1 - fy);
        const b = fx * (1 - fy);
        const c01 = (1 - fx) * fy;
        const d = fx * fy;
        for (let c = 0; c < channels; c++) {
          sum[c]! += data[i00 + c]! * a + data[i10 + c]! * b + data[i00 + down + c]! * c01 + data[i10 + down + c]! * d;
        }
      }
      for (let c = 0; c < channels; c++) out.data[to++] = sum[c]! * share;
    }
  }
}
