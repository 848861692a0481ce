import { createRequire } from 'node:module';
import { orderRing, type Quad } from '../core/imaging/geometry/quad';
import { pixelImageFrom, type PixelImage } from '../core/imaging/raster/pixelImage';

/** The parts of OpenCV.js that the peers need. */
export interface Mat {
  rows: number;
  cols: number;
  data: Uint8Array;
  data32S: Int32Array;
  convertTo(to: Mat, type: number, scale: number, add: number): void;
  clone(): Mat;
  delete(): void;
}
interface MatVector {
  size(): number;
  get(i: number): Mat;
  push_back(mat: Mat): void;
  delete(): void;
}
export interface OpenCv {
  onRuntimeInitialized?: () => void;
  Mat: new () => Mat;
  MatVector: new () => MatVector;
  Size: new (w: number, h: number) => object;
  matFromImageData(image: { data: Uint8ClampedArray; width: number; height: number }): Mat;
  cvtColor(from: Mat, to: Mat, code: number): void;
  GaussianBlur(from: Mat, to: Mat, size: object, sigma: number): void;
  Canny(from: Mat, to: Mat, low: number, high: number): void;
  dilate(from: Mat, to: Mat, kernel: Mat): void;
  getStructuringElement(shape: number, size: object): Mat;
  findContours(from: Mat, to: object, hierarchy: Mat, mode: number, method: number): void;
  arcLength(contour: Mat, closed: boolean): number;
  approxPolyDP(contour: Mat, to: Mat, epsilon: number, closed: boolean): void;
  contourArea(contour: Mat): number;
  isContourConvex(contour: Mat): boolean;
  matFromArray(rows: number, columns: number, type: number, values: readonly number[]): Mat;
  getPerspectiveTransform(from: Mat, to: Mat): Mat;
  warpPerspective(from: Mat, to: Mat, transform: Mat, size: object, interpolation: number): void;
  resize(from: Mat, to: Mat, size: object, scaleX: number, scaleY: number, interpolation: number): void;
  medianBlur(from: Mat, to: Mat, size: number): void;
  divide(a: Mat, b: Mat, to: Mat, scale: number): void;
  adaptiveThreshold(from: Mat, to: Mat, most: number, method: number, type: number, size: number, below: number): void;
  morphologyEx(from: Mat, to: Mat, operation: number, kernel: Mat): void;
  blur(from: Mat, to: Mat, size: object): void;
  Sobel(from: Mat, to: Mat, depth: number, dx: number, dy: number): void;
  magnitude(x: Mat, y: Mat, to: Mat): void;
  threshold(from: Mat, to: Mat, level: number, most: number, type: number): void;
  add(a: Mat, b: Mat, to: Mat): void;
  subtract(a: Mat, b: Mat, to: Mat): void;
  multiply(a: Mat, b: Mat, to: Mat, scale: number): void;
  addWeighted(a: Mat, shareA: number, b: Mat, shareB: number, plus: number, to: Mat): void;
  split(from: Mat, to: MatVector): void;
  merge(from: MatVector, to: Mat): void;
  CV_8U: number;
  CV_32F: number;
  CV_32FC2: number;
  INTER_LINEAR: number;
  INTER_AREA: number;
  INTER_NEAREST: number;
  ADAPTIVE_THRESH_MEAN_C: number;
  THRESH_BINARY: number;
  THRESH_BINARY_INV: number;
  COLOR_RGBA2GRAY: number;
  COLOR_RGBA2RGB: number;
  COLOR_RGB2GRAY: number;
  MORPH_RECT: number;
  MORPH_CLOSE: number;
  RETR_LIST: number;
  CHAIN_APPROX_SIMPLE: number;
}

/** Wrapped, because the module has a `then` of its own that a promise would call for ever. */
export async function loadOpenCv(): Promise<{ readonly cv: OpenCv }> {
  const cv = createRequire(import.meta.url)('@techstark/opencv-js') as OpenCv;
  await new Promise<void>((resolve) => (cv.onRuntimeInitialized = resolve));
  return { cv };
}

/** The classic chain: blur, Canny, contours, the largest convex quadrilateral. */
export function classicOutline(cv: OpenCv, frame: PixelImage): Quad | null {
  const source = cv.matFromImageData(frame);
  const grey = new cv.Mat();
  const edges = new cv.Mat();
  const contours = new cv.MatVector();
  const hierarchy = new cv.Mat();
  const corners = new cv.Mat();
  cv.cvtColor(source, grey, cv.COLOR_RGBA2GRAY);
  cv.GaussianBlur(grey, grey, new cv.Size(5, 5), 0);
  cv.Canny(grey, edges, 50, 150);
  const kernel = cv.getStructuringElement(cv.MORPH_RECT, new cv.Size(3, 3));
  cv.dilate(edges, edges, kernel);
  cv.findContours(edges, contours, hierarchy, cv.RETR_LIST, cv.CHAIN_APPROX_SIMPLE);
  let best: Quad | null = null;
  let largest = 0.06 * frame.width * frame.height;
  for (let i = 0; i < contours.size(); i++) {
    const contour = contours.get(i);
    cv.approxPolyDP(contour, corners, 0.02 * cv.arcLength(contour, true), true);
    const area = cv.contourArea(corners);
    if (corners.rows === 4 && area > largest && cv.isContourConvex(corners)) {
      const at = corners.data32S;
      best = orderRing([0, 1, 2, 3].map((k) => ({ x: at[2 * k]!, y: at[2 * k + 1]! })) as unknown as Quad);
      largest = area;
    }
    contour.delete();
  }
  for (const used of [source, grey, edges, contours, hierarchy, corners, kernel]) used.delete();
  return best;
}

/** What OpenCV.js takes: with an alpha channel. */
export function toRgba({ width, height, channels, data }: PixelImage): PixelImage {
  const rgba = new Uint8ClampedArray(width * height * 4).fill(255);
  for (let i = 0; i < width * height; i++) for (let c = 0; c < 3; c++) rgba[i * 4 + c] = data[i * channels + c]!;
  return pixelImageFrom(width, height, 4, rgba);
}
