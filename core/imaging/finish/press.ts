import { fieldCells } from '../light/fieldCells';
import { withWorkspace } from '../kernels/workspace';
import { PAPER_LEVEL } from '../light/normaliseLightness';
import { boxBlur } from '../raster/boxBlur';
import { samplePositions, samplePositionSlots } from '../raster/enlargePlane';
import { extremeFilter } from '../raster/morphology';
import { createPixelImage, type PixelImage } from '../raster/pixelImage';
import { sharpeningGain } from './sharpeningGain';
import type { PageLight } from './pageLight';
import { settingsAt, sizeBesideFile } from './smallCopy';
import { despeckleInto } from './despeckle';
import { inkPlane, smoothGrain, type InkPlane } from './inkPlane';
import { smoothContoursInto } from './smoothContours';

/*
 * Two levels. A pixel is ink where it is clearly darker than the paper's own scatter, and
 *   - at least half as dark as the darkest ink nearby: that is where a blurred stroke's true edge lies; or
 *   - on the ridge of a stroke (the second difference across it is negative): so a faint stroke beside a dark one stays.
 * The page is sharpened before it is cut, so that small letters stay open, and small detail is enlarged, so that a stroke's
 * edge is not a staircase. What is left of grain, spots too small or too pale to have been written, goes, and what noise has
 * left of bumps and pits along the strokes.
 */

/** Long side up to which a page is enlarged, by at most twice. */
const ENLARGE_TO_PX = 3600;
/** By less it is not worth it. */
const LEAST_FACTOR = 1.15;
/** Standard deviations of the smoothed paper below which nothing is ink. */
const FLOOR_DEVIATIONS = 2.6;
/** What smoothing leaves of the scatter of neighbouring pixels, which JPEG has made alike. */
const GRAIN_LEFT = 0.6;
/** Depth below which nothing is ink, as a share of the paper, however calm the page: the tooth of paper. */
const LEAST_FLOOR = 0.045;
/** The surroundings a ridge is seen against, as a share of the long side: 1 mm of A4. */
const RIDGE_RADIUS = 0.0022;
/** Half the square in which the darkest ink nearby is sought: 1.4 mm of A4. */
const NEAR_RADIUS = 0.0048;
/**
 * The share of the nearby ink's depth at which an edge lies (lower makes strokes thicker), and how much of the difference to
 * its neighbours a pixel gains on a calm page, by the page's size beside the file's. A small copy's edges are wider than its
 * strokes, so its edge lies higher up. Fitted as strokeGain.ts says; two levels leave 3.4, 6.5 and 11 levels on the mean.
 */
const SMALL_COPIES = [
  { ratio: 0.3, settings: [0.7, 1.5] },
  { ratio: 0.43, settings: [0.7, 1.5] },
  { ratio: 0.71, settings: [0.55, 3] },
  { ratio: 1, settings: [0.45, 4.3] },
] as const;
/** Brightness moves the edge by up to this. */
const BRIGHTNESS_SPAN = 0.3;

/** A page's ink, ready to be cut: nothing of it hangs on a slider. Planes of one byte, the page's size. */
export interface Strokes {
  /** Share of the nearby ink's depth at which a stroke's edge lies. */
  readonly edge: number;
  readonly ink: InkPlane;
  /** Depth below which nothing is ink. */
  readonly floor: Uint8Array;
  /** Depth from which on a pixel is the ridge of a stroke. */
  readonly ridge: Uint8Array;
  /** Depth of the darkest ink nearby. */
  readonly near: Uint8Array;
}

/** Reads what Press cuts out of a page: ink without ruled lines, and for every pixel from which depth on it is a stroke. */
export function readStrokes(lit: PageLight): Strokes {
  // between two levels a faint rule would come out in dashes
  const small = inkPlane(lit, true);
  const smooth: InkPlane = { ...small, depth: smoothGrain(small) };
  const [edge, amount] = settingsAt(SMALL_COPIES, sizeBesideFile(lit)) as [number, number];
  return { edge, ink: sharpened(smooth, amount * sharpeningGain(lit)), ...thresholds(smooth, lit) };
}

/**
 * Press: black and white only, strokes whole, no pepper. Strokes are cut between the pixels, read bilinearly.
 * @param brightness - -1 to 1: higher moves strokes' edges inwards
 * @param mostLongSidePx - of what comes back, where that is more than the page has
 * @returns grey with values 0 and 255, enlarged up to twice towards 3600 px
 */
export function press(
  { edge, ink: { width, height, depth }, floor, ridge, near }: Strokes,
  brightness: number,
  mostLongSidePx = Infinity,
): PixelImage {
  const share = Math.round(256 * (edge + brightness * BRIGHTNESS_SPAN));
  const factor = Math.min(2, Math.min(mostLongSidePx, ENLARGE_TO_PX) / Math.max(width, height));
  const [toWidth, toHeight] =
    factor > LEAST_FACTOR ? [Math.round(width * factor), Math.round(height * factor)] : [width, height];
  const rows = samplePositions(height, toHeight);
  const out = createPixelImage(toWidth, toHeight, 1);
  out.data.fill(255);
  withWorkspace((ws) => {
    const columns = samplePositionSlots(ws, width, toWidth);
    const rowOf = { depth: ws.clamped(width), floor: ws.u8(width), ridge: ws.u8(width), near: ws.u8(width) };
    const excess = [ws.f32(width), ws.f32(width)] as const;
    const line = ws.f32(width + 1);
    const cut = ws.u8(toWidth);
    const inked = [false, false];
    let read = -1;
    const readTo = (last: number): void => {
      while (read < last) {
        read++;
        const [from, to] = [read * width, (read + 1) * width];
        rowOf.depth.set(depth.subarray(from, to));
        rowOf.floor.set(floor.subarray(from, to));
        rowOf.ridge.set(ridge.subarray(from, to));
        rowOf.near.set(near.subarray(from, to));
        inked[read % 2] =
          ws.kernels.strokeExcessRow(
            rowOf.depth.at,
            rowOf.floor.at,
            rowOf.ridge.at,
            rowOf.near.at,
            share,
            width,
            excess[read % 2]!.at,
          ) !== 0;
      }
    };
    for (let y = 0; y < toHeight; y++) {
      const above = rows.lefts[y]!;
      const below = Math.min(height - 1, above + 1);
      readTo(below);
      // most rows of a page are bare, and only what lies beside ink can become ink
      if (!inked[above % 2] && !inked[below % 2]) continue;
      ws.kernels.lerpRows(excess[above % 2]!.at, excess[below % 2]!.at, rows.shares[y]!, width, line.at);
      ws.kernels.cutStrokeRow(line.at, columns.lefts.at, columns.shares.at, toWidth, cut.at);
      cut.copyInto(out.data, y * toWidth);
    }
  });
  return smoothContoursInto(despeckleInto(out));
}

/** What the lens ran together is drawn apart before it is cut, so that small letters stay open; noise is not to be sharpened. */
function sharpened(ink: InkPlane, amount: number): InkPlane {
  const soft = smoothGrain(ink);
  const depth = new Uint8ClampedArray(soft.length);
  for (let i = 0; i < depth.length; i++) depth[i] = ink.depth[i]! + amount * (ink.depth[i]! - soft[i]!);
  return { ...ink, depth };
}

function thresholds({ width, height, depth }: InkPlane, { field }: PageLight): Omit<Strokes, 'ink' | 'edge'> {
  const long = Math.max(width, height);
  const block = Math.max(1, Math.round(long / 900));
  const nearby = darkestNearby(depth, width, height, block, Math.max(1, Math.round((NEAR_RADIUS * long) / block)));
  const around = boxBlur(Float32Array.from(depth), width, height, {
    radius: Math.max(1, Math.round(RIDGE_RADIUS * long)),
  });
  const { columnOf, rowOf } = fieldCells({ width, height }, field);
  const floor = new Uint8Array(width * height);
  const ridge = new Uint8Array(width * height);
  const near = new Uint8Array(width * height);
  for (let y = 0; y < height; y++) {
    const nearRow = Math.floor(y / block) * nearby.width;
    for (let x = 0, i = y * width; x < width; x++, i++) {
      const noise = field.noise[rowOf[y]! + columnOf[x]!]!;
      const least = PAPER_LEVEL * Math.max(LEAST_FLOOR, FLOOR_DEVIATIONS * GRAIN_LEFT * noise);
      floor[i] = Math.min(255, least);
      // on a ridge the stroke is darker than its surroundings by a good part of its own depth
      ridge[i] = Math.min(255, around[i]! * 1.5 + 4);
      near[i] = nearby.data[nearRow + Math.floor(x / block)]!;
    }
  }
  return { floor, ridge, near };
}

/** Darkest value of a wide square around every block. */
function darkestNearby(
  depth: Uint8ClampedArray,
  width: number,
  height: number,
  block: number,
  radius: number,
): { width: number; data: Float32Array } {
  const w = Math.ceil(width / block);
  const h = Math.ceil(height / block);
  const most = new Float32Array(w * h);
  for (let y = 0; y < height; y++) {
    const row = Math.floor(y / block) * w;
    for (let x = 0, i = y * width; x < width; x++, i++) {
      const at = row + Math.floor(x / block);
      if (depth[i]! > most[at]!) most[at] = depth[i]!;
    }
  }
  return { width: w, data: extremeFilter(most, w, h, { extreme: 'largest', radius }) };
}
