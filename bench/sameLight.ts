import { polygonArea, type Quad } from '../core/imaging/geometry/quad';
import type { PixelImage } from '../core/imaging/raster/pixelImage';
import { toRgba, type Mat, type OpenCv } from './classicChain';

/*
 * The steps of Daylight done with OpenCV.js, for their time alone: homography, illumination field (closings, things apart,
 * guided filter at shadow edges), division, ink colour from cells, coverage restored through tables. Sizes and windows are those
 * of core/light and core/finish. It is spared what OpenCV has no call for: filling in things, levels by brightness, pictures.
 * A bent sheet is taken for a flat one.
 */

const FINE_PX = 1400;
const COARSE_PX = 480;
const CELL_PX = 4;

/** @returns ms from the photo as RGB to the finished page */
export function sameLight(cv: OpenCv, photo: PixelImage, corners: Quad, width: number, height: number): number {
  const rgba = cv.matFromImageData(toRgba(photo));
  const rgb = new cv.Mat();
  cv.cvtColor(rgba, rgb, cv.COLOR_RGBA2RGB);
  rgba.delete();
  const used: Mat[] = [rgb];
  const mat = (): Mat => {
    const made = new cv.Mat();
    used.push(made);
    return made;
  };
  const made = (make: (out: Mat) => void): Mat => {
    const out = mat();
    make(out);
    return out;
  };
  const resized = (from: Mat, w: number, h: number, how: number): Mat =>
    made((out) => cv.resize(from, out, new cv.Size(w, h), 0, 0, how));
  const closed = (from: Mat, side: number): Mat => {
    const square = cv.getStructuringElement(cv.MORPH_RECT, new cv.Size(side, side));
    used.push(square);
    return made((out) => cv.morphologyEx(from, out, cv.MORPH_CLOSE, square));
  };
  const blurred = (from: Mat, side: number): Mat => made((out) => cv.blur(from, out, new cv.Size(side, side)));
  const float = (from: Mat): Mat => made((out) => from.convertTo(out, cv.CV_32F, 1, 0));
  const product = (a: Mat, b: Mat): Mat => made((out) => cv.multiply(a, b, out, 1));
  const quotient = (a: Mat, b: Mat): Mat => made((out) => cv.divide(a, b, out, 1));
  const difference = (a: Mat, b: Mat): Mat => made((out) => cv.subtract(a, b, out));
  const plus = (from: Mat, scale: number, add: number): Mat => made((out) => from.convertTo(out, -1, scale, add));
  const grey = (from: Mat): Mat => made((out) => cv.cvtColor(from, out, cv.COLOR_RGB2GRAY));
  const planesOf = (from: Mat): Mat[] => {
    const planes = new cv.MatVector();
    cv.split(from, planes);
    const list = Array.from({ length: planes.size() }, (_, c) => planes.get(c));
    used.push(...list);
    planes.delete();
    return list;
  };
  const merged = (list: readonly Mat[]): Mat => {
    const planes = new cv.MatVector();
    for (const plane of list) planes.push_back(plane);
    const out = made((all) => cv.merge(planes, all));
    planes.delete();
    return out;
  };
  // OpenCV.js has no call for tables
  const tabled = (from: Mat, curve: (share: number) => number): Mat => {
    const table = Uint8ClampedArray.from({ length: 256 }, (_, i) => 255 * curve(i / 255));
    const out = from.clone();
    used.push(out);
    const { data } = out;
    for (let i = 0; i < data.length; i++) data[i] = table[data[i]!]!;
    return out;
  };

  const started = performance.now();
  const step = Math.sqrt(Math.abs(polygonArea(corners)) / (width * height));
  const looks = step > 1.2 ? 2 : 1;
  const from = cv.matFromArray(
    4,
    1,
    cv.CV_32FC2,
    corners.flatMap((p) => [p.x, p.y]),
  );
  const to = cv.matFromArray(4, 1, cv.CV_32FC2, [
    0,
    0,
    width * looks,
    0,
    width * looks,
    height * looks,
    0,
    height * looks,
  ]);
  const homography = cv.getPerspectiveTransform(from, to);
  used.push(from, to, homography);
  const looked = made((out) =>
    cv.warpPerspective(rgb, out, homography, new cv.Size(width * looks, height * looks), cv.INTER_LINEAR),
  );
  const flat = looks === 1 ? looked : resized(looked, width, height, cv.INTER_AREA);

  let fine = flat;
  while (Math.max(fine.cols, fine.rows) > FINE_PX)
    fine = resized(fine, (fine.cols + 1) >> 1, (fine.rows + 1) >> 1, cv.INTER_AREA);
  const shrink = Math.min(1, COARSE_PX / Math.max(fine.cols, fine.rows));
  const small = float(resized(fine, Math.round(fine.cols * shrink), Math.round(fine.rows * shrink), cv.INTER_AREA));
  const shut = planesOf(small).map((plane) => closed(plane, 13));
  const lightness = grey(merged(shut));
  const envelope = closed(lightness, 221);
  const things = made((out) =>
    cv.threshold(difference(lightness, plus(envelope, 0.38, 0)), out, 0, 1, cv.THRESH_BINARY_INV),
  );
  blurred(
    made((out) => cv.threshold(difference(grey(small), plus(envelope, 0.38, 0)), out, 0, 1, cv.THRESH_BINARY_INV)),
    13,
  );
  blurred(things, 7);
  const coarse = shut.map((plane) => blurred(blurred(plane, 5), 5));
  const level = grey(merged(coarse));
  const across = made((out) => cv.Sobel(level, out, cv.CV_32F, 1, 0));
  const down = made((out) => cv.Sobel(level, out, cv.CV_32F, 0, 1));
  const steep = blurred(
    blurred(
      quotient(
        made((out) => cv.magnitude(across, down, out)),
        level,
      ),
      5,
    ),
    5,
  );

  const seen = closed(float(grey(fine)), 2 * Math.max(2, Math.round(0.0067 * Math.max(fine.cols, fine.rows))) + 1);
  const mean = blurred(seen, 7);
  const scatter = difference(blurred(product(seen, seen), 7), product(mean, mean));
  const slope = quotient(scatter, plus(scatter, 1, 40));
  const base = difference(mean, product(slope, mean));
  const smooth = made((out) => cv.add(product(blurred(slope, 7), seen), blurred(base, 7), out));
  const ratio = quotient(smooth, resized(level, fine.cols, fine.rows, cv.INTER_LINEAR));
  const edge = plus(quotient(ratio, blurred(blurred(ratio, 49), 49)), 1, -1);
  const follow = plus(product(resized(steep, fine.cols, fine.rows, cv.INTER_LINEAR), edge), 1, 1);
  const field = merged(coarse.map((plane) => product(resized(plane, fine.cols, fine.rows, cv.INTER_LINEAR), follow)));

  const paper = resized(
    made((out) => field.convertTo(out, cv.CV_8U, 1, 0)),
    width,
    height,
    cv.INTER_LINEAR,
  );
  const lit = made((out) => cv.divide(flat, paper, out, 255));
  const cells = (page: Mat): Mat =>
    float(
      resized(
        tabled(page, (v) => v ** 2.2),
        Math.ceil(width / CELL_PX),
        Math.ceil(height / CELL_PX),
        cv.INTER_AREA,
      ),
    );
  const missing = blurred(plus(cells(lit), -1, 255), 3);
  const about = plus(grey(missing), 1, 1);
  const depth = tabled(grey(lit), (v) => 1 - v ** 2.2);
  const soft = made((out) => cv.GaussianBlur(depth, out, new cv.Size(3, 3), 0));
  const sharp = made((out) => cv.addWeighted(depth, 4.5, soft, -3.5, 0, out));
  const cover = tabled(sharp, (v) => 0.98 * (1 - (1 - v) ** 2.1));
  merged(
    planesOf(missing).map((plane) => {
      const share = resized(
        made((out) => quotient(plane, about).convertTo(out, cv.CV_8U, 128, 0)),
        width,
        height,
        cv.INTER_NEAREST,
      );
      return tabled(
        made((taken) => cv.multiply(cover, share, taken, 1 / 128)),
        (v) => (1 - v) ** (1 / 2.2),
      );
    }),
  );
  const ms = performance.now() - started;
  for (const each of used) each.delete();
  return ms;
}
