import type { Point } from '../geometry/point';
import { placeOnQuad, type Quad } from '../geometry/quad';
import { findGlare } from '../quality/glare';
import { fingerprintOf } from '../quality/pageFingerprint';
import type { PixelImage } from '../raster/pixelImage';

/** What a frame tells besides its outline. All numbers from one cheap pass. */
export interface FrameFacts {
  /** Brightness that 9 of 10 pixels stay under, 0 to 255: how light the lightest things are. */
  readonly brightness: number;
  /** Mean strength of fine detail (Laplacian) over that of the coarser detail: falls when the picture is blurred. */
  readonly sharpness: number;
  /** Where a reflection burns the paper out, in frame pixels, or null. */
  readonly glareAt: Point | null;
  /** Ink in 32 × 32 cells of the page (of the frame where there is none), less its mean, unit norm: tells one page from the next. */
  readonly fingerprint: Float32Array;
}

/**
 * Reads a frame.
 * Limits: sharpness compares frames of one scene; between scenes it depends on what is in them.
 * @param frame - RGB or RGBA
 * @param page - the outline in it, or null
 */
export function readFrameFacts(frame: PixelImage, page: Quad | null): FrameFacts {
  const { width, height, channels, data } = frame;
  const light = (x: number, y: number): number => data[(y * width + x) * channels + (channels === 1 ? 0 : 1)]!;
  const histogram = new Uint32Array(256);
  for (let y = 0; y < height; y += 4) for (let x = 0; x < width; x += 4) histogram[light(x, y)]!++;
  const samples = Math.ceil(height / 4) * Math.ceil(width / 4);
  let brightness = 255;
  for (let above = 0; brightness > 0 && above + histogram[brightness]! < samples / 10; brightness--)
    above += histogram[brightness]!;
  const within = page === null ? null : (u: number, v: number) => placeOnQuad(page, u, v);
  return {
    brightness,
    sharpness: frameSharpness(frame, page),
    glareAt: page === null ? null : findGlare(frame, page),
    fingerprint: fingerprintOf(light, within ?? ((u, v) => ({ x: u * width, y: v * height })), width, height),
  };
}

/** The sharpness alone; without a page the frame's middle speaks. */
export function frameSharpness({ width, height, channels, data }: PixelImage, page: Quad | null): number {
  const light = (x: number, y: number): number => data[(y * width + x) * channels + (channels === 1 ? 0 : 1)]!;
  return detailRatio(light, page === null ? [0.2, 0.2, 0.8, 0.8] : boundsShare(page, width, height), width, height);
}

function boundsShare(page: Quad, width: number, height: number): [number, number, number, number] {
  const xs = page.map((p) => p.x / width);
  const ys = page.map((p) => p.y / height);
  return [
    Math.max(0, Math.min(...xs)),
    Math.max(0, Math.min(...ys)),
    Math.min(1, Math.max(...xs)),
    Math.min(1, Math.max(...ys)),
  ];
}

/** Second differences below this are a frame's noise. */
const ABOVE_NOISE = 16;

/** Strength of the 1-px second difference over that of the 3-px one: content raises both alike, blur takes the first away. */
function detailRatio(
  light: (x: number, y: number) => number,
  [left, top, right, bottom]: readonly number[],
  width: number,
  height: number,
): number {
  let fine = 0;
  let coarse = 0;
  for (let y = Math.max(3, Math.floor(top! * height)); y < Math.min(height - 3, bottom! * height); y += 2) {
    for (let x = Math.max(3, Math.floor(left! * width)); x < Math.min(width - 3, right! * width); x++) {
      const c = 2 * light(x, y);
      fine += Math.max(0, Math.abs(c - light(x - 1, y) - light(x + 1, y)) - ABOVE_NOISE);
      coarse += Math.max(0, Math.abs(c - light(x - 3, y) - light(x + 3, y)) - ABOVE_NOISE);
    }
  }
  return coarse === 0 ? 0 : fine / coarse;
}
