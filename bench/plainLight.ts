import type { Quad } from '../core/imaging/geometry/quad';
import { createPixelImage, type PixelImage } from '../core/imaging/raster/pixelImage';
import { toRgba, type OpenCv } from './classicChain';

/** The median's square on the reduced copy, and by how much that is reduced: a large median at full size takes OpenCV.js seconds. */
const MEDIAN_PX = 51;
const REDUCED = 4;
const THRESHOLD_PX = 31;
const THRESHOLD_BELOW = 12;

/**
 * The plain way, through OpenCV.js: perspective warp, the background by a large median and divided out channel by channel,
 * and a local mean threshold.
 * @param corners - of the page in the photo, px
 */
export function plainLight(
  cv: OpenCv,
  photo: PixelImage,
  corners: Quad,
  width: number,
  height: number,
): { readonly divided: PixelImage; readonly levels: PixelImage; readonly ms: number } {
  const rgba = toRgba(photo);
  const started = performance.now();
  const source = cv.matFromImageData(rgba);
  const flat = new cv.Mat();
  const from = cv.matFromArray(
    4,
    1,
    cv.CV_32FC2,
    corners.flatMap((p) => [p.x, p.y]),
  );
  const to = cv.matFromArray(4, 1, cv.CV_32FC2, [0, 0, width, 0, width, height, 0, height]);
  const warp = cv.getPerspectiveTransform(from, to);
  cv.warpPerspective(source, flat, warp, new cv.Size(width, height), cv.INTER_LINEAR);
  const small = new cv.Mat();
  cv.resize(flat, small, new cv.Size(Math.round(width / REDUCED), Math.round(height / REDUCED)), 0, 0, cv.INTER_AREA);
  const median = new cv.Mat();
  cv.medianBlur(small, median, MEDIAN_PX);
  const background = new cv.Mat();
  cv.resize(median, background, new cv.Size(width, height), 0, 0, cv.INTER_LINEAR);
  const divided = new cv.Mat();
  cv.divide(flat, background, divided, 255);
  const grey = new cv.Mat();
  cv.cvtColor(divided, grey, cv.COLOR_RGBA2GRAY);
  const levels = new cv.Mat();
  cv.adaptiveThreshold(grey, levels, 255, cv.ADAPTIVE_THRESH_MEAN_C, cv.THRESH_BINARY, THRESHOLD_PX, THRESHOLD_BELOW);
  const ms = performance.now() - started;
  const colour = createPixelImage(width, height, 3);
  for (let i = 0, at = 0; at < colour.data.length; i += 4, at += 3)
    for (let c = 0; c < 3; c++) colour.data[at + c] = divided.data[i + c]!;
  const bilevel = createPixelImage(width, height, 1);
  bilevel.data.set(levels.data);
  for (const mat of [source, flat, from, to, warp, small, median, background, divided, grey, levels]) mat.delete();
  return { divided: colour, levels: bilevel, ms };
}
