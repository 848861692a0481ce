import type { PageShape } from '../flatten/flattenPage';
import { pageToPhoto, photoToPage } from '../flatten/placeOnPage';
import { applyHomography, type Homography } from '../geometry/homography';
import { distance, scalePoint, type Point } from '../geometry/point';
import { tukeyWeight } from '../geometry/tukeyWeight';
import { createPixelImage, type PixelImage } from '../raster/pixelImage';
import { lightnessPlane } from '../raster/plane';
import { quantile } from '../raster/quantile';
import { fitLongSide } from '../raster/resizeByArea';
import { followTiles, type FollowedTile } from './followTiles';
import { placeAt, readPlaces, type PlaceGrid } from './placeGrid';
import { registerFrames } from './registerFrames';
import { sampleCubic } from './sampleCubic';

/*
 * Where each place of a photo lies in a second photo of the same page, taken from another angle.
 * 1. Both photos' shapes, how the page lies in each, carry a place over the page from one to the other: to a millimetre or so.
 * 2. The second photo, laid over the first by that, is registered onto it (registerFrames): outlines that are off go away.
 * 3. What is left, since no sheet's bend is known exactly, is followed tile by tile, and smoothed.
 * Assumes writing on most of the page; under the reflection, where there is none to follow, the smooth map is carried on.
 */

/** A photo and how its page lies in it, as it is read. */
export interface PageInPhoto {
  readonly photo: PixelImage;
  readonly shape: Pick<PageShape, 'corners' | 'sheet'>;
}

/** A second photo laid over a first, both small. */
export interface SecondView {
  readonly first: PixelImage;
  /** As it would look from where the first was taken; RGB, of the first's size. */
  readonly second: PixelImage;
  /** 1 where it shows the page, else 0; one for each pixel. */
  readonly seen: Uint8Array;
  /** Where a place of the whole first, px, lies in the whole second; null off the page. */
  readonly placeInSecond: (x: number, y: number) => Point | null;
}

interface Laid {
  readonly image: PixelImage;
  readonly seen: Uint8Array;
}

/** Long side at which photos are laid over each other, px: 5 to a millimetre of A4. */
const LONG_SIDE_PX = 1600;
const NODE_PX = 16;
/** A place so far beyond the page, as a share of it, is carried over too: further than a node lies off a page of half the photo's size. */
const BEYOND = 0.03;
/** Side and distance of the tiles that are followed, px: as long as a word. */
const TILE_PX = 32;
const TILE_STEP_PX = 24;
/** Tiles with texture that can prove two photos to be of one page. */
const LEAST_TILES = 24;
const UNMOVED: Homography = [1, 0, 0, 0, 1, 0, 0, 0, 1];
/** So far, px, what one tile says reaches to its neighbours (standard deviation). */
const REACH_PX = 60;
/** A tile that differs from its neighbours by this, px, is not believed. */
const OFF_PX = 2;
/** A sheet whose bend is known is off by no more than this, px. */
const MOST_LEFT_PX = 8;
/**
 * Share of the tiles with texture that must agree with their neighbours: of 12 simulated pages 0.88 to 0.99 did, of other pages and
 * of the same ones turned 0.39 to 0.69.
 */
const LEAST_AGREEMENT = 0.78;

/**
 * Lays a second photo of a page over the first; method and limits above.
 * @param first - RGB, RGBA or grey, and so is the second, of whatever size
 * @returns null where they do not show the same page, or not the same way up
 */
export function secondView(first: PageInPhoto, second: PageInPhoto): SecondView | null {
  const small = fitLongSide(first.photo, LONG_SIDE_PX);
  const smallSecond = fitLongSide(second.photo, LONG_SIDE_PX);
  const scale = first.photo.width / small.width;
  const secondScale = second.photo.width / smallSecond.width;
  const toPage = photoToPage(first.shape);
  const toSecond = pageToPhoto(second.shape);
  const onPage = readPlaces(small, NODE_PX, (at) => toPage(scalePoint(at, scale)));
  const byShape = readPlaces(small, NODE_PX, (at) => {
    const page = placeAt(onPage, at.x, at.y);
    return page !== null && isWithin(page, BEYOND) ? scalePoint(toSecond(page.x, page.y), 1 / secondScale) : null;
  });
  const measured = measureShifts(small, lay(smallSecond, small, { onPage, places: byShape }));
  if (measured === null) return null;
  const places = readPlaces(small, NODE_PX, (at) => {
    const there = measured(at);
    return placeAt(byShape, there.x, there.y);
  });
  const { image, seen } = lay(smallSecond, small, { onPage, places });
  return {
    first: small,
    second: image,
    seen,
    placeInSecond: (x, y) => {
      const there = placeOnBoth({ onPage, places }, x / scale, y / scale);
      return there === null ? null : scalePoint(there, secondScale);
    },
  };
}

/** Where places of the small first lie on the page, in shares of it, and in the small second. */
interface Places {
  readonly onPage: PlaceGrid;
  readonly places: PlaceGrid;
}

const isWithin = ({ x, y }: Point, beyond: number): boolean =>
  x >= -beyond && y >= -beyond && x <= 1 + beyond && y <= 1 + beyond;

/** Where a place of the small first lies in the small second; null off the page. */
function placeOnBoth({ onPage, places }: Places, x: number, y: number): Point | null {
  const page = placeAt(onPage, x, y);
  return page === null || !isWithin(page, 0) ? null : placeAt(places, x, y);
}

/**
 * Where places of the first lie in the second as it was roughly laid over it, px.
 * @returns null where they do not show the same
 */
function measureShifts(small: PixelImage, { image, seen }: Laid): ((at: Point) => Point) | null {
  const plane = lightnessPlane(small);
  const frame = lightnessPlane(image);
  const among = ({ x, y }: Point): boolean =>
    seen[Math.min(small.height - 1, y | 0) * small.width + Math.min(small.width - 1, x | 0)] === 1;
  // a page with little on it has too few tiles on the coarse levels; then the shapes must do
  const start = registerFrames(plane, frame, among)?.homography ?? UNMOVED;
  const tiles = followTiles(plane, frame, { start, tilePx: TILE_PX, stepPx: TILE_STEP_PX, among });
  const left = tiles.map(({ from, to }): FollowedTile => {
    const thought = applyHomography(start, from);
    return { from, to: { x: to.x - thought.x, y: to.y - thought.y } };
  });
  const near = left.filter(({ to }) => Math.hypot(to.x, to.y) < MOST_LEFT_PX);
  const shifts = smoothShifts(near);
  const agreeing = near.filter(({ from, to }) => distance(shifts(from), to) < OFF_PX).length;
  if (tiles.length < LEAST_TILES || agreeing < LEAST_AGREEMENT * tiles.length) return null;
  return (at) => {
    const there = applyHomography(start, at);
    const shift = shifts(at);
    return { x: there.x + shift.x, y: there.y + shift.y };
  };
}

/** What tiles say near a place, the mean of those that agree with each other. */
function smoothShifts(tiles: readonly FollowedTile[]): (at: Point) => Point {
  return (at) => {
    const around = tiles.filter(({ from }) => distance(from, at) < 3 * REACH_PX);
    if (around.length < 3) return { x: 0, y: 0 };
    const middle = {
      x: quantile(
        around.map(({ to }) => to.x),
        0.5,
      ),
      y: quantile(
        around.map(({ to }) => to.y),
        0.5,
      ),
    };
    let [x, y, sum] = [0, 0, 1e-6];
    for (const { from, to } of around) {
      const weight =
        Math.exp(-((distance(from, at) / REACH_PX) ** 2) / 2) * tukeyWeight(distance(to, middle) / (2 * OFF_PX));
      x += weight * to.x;
      y += weight * to.y;
      sum += weight;
    }
    return { x: x / sum, y: y / sum };
  };
}

/** A photo as it looks from another's place, of that one's size. */
function lay(photo: PixelImage, { width, height }: PixelImage, places: Places): Laid {
  const image = createPixelImage(width, height, 3);
  const seen = new Uint8Array(width * height);
  const read = new Float32Array(3);
  for (let y = 0, at = 0; y < height; y++)
    for (let x = 0; x < width; x++, at++) {
      const there = placeOnBoth(places, x + 0.5, y + 0.5);
      if (there === null || !sampleCubic(photo, there.x, there.y, read)) continue;
      image.data.set(read, 3 * at);
      seen[at] = 1;
    }
  return { image, seen };
}
