import type { Point } from '../geometry/point';
import { lightnessPlane, transposePlane, type Plane } from '../raster/plane';
import type { PixelImage } from '../raster/pixelImage';
import type { PageShape } from './flattenPage';
import { findHoleRows } from './holeRows';
import { inkProfiles } from './inkProfiles';
import { chainLines, type Chain } from './lineChains';
import { measureLineFlow, type LineFlow } from './lineFlow';
import { LINE_PLACES, MIN_LINES, MOST_LINES, type PageLine } from './pageLine';
import { pageToPhoto } from './placeOnPage';

/** Lines that the flow is told by, where no single line can be followed. */
const FLOW_LINES = 9;
/** How far handwriting strays from it (standard deviation), px of the flat page. */
const FLOW_STRAY_PX = 1.5;

interface FindOptions {
  /** Whether writing runs down the page as it lies. */
  readonly sideways?: boolean;
  /** Whether the course that lines of handwriting take together (lineFlow.ts) is told where no single line is found: it is far less sure. */
  readonly handwritten?: boolean;
}

/**
 * Finds lines that stand on a page: rulings, squares, rules of tables, lines of print (lineChains.ts), rows of holes.
 * @param flat - the readingPage of this shape
 * @param shape - how the page lies as far as is known
 * @returns MOST_LINES at most of those that run one way, evenly chosen, in px of the photo
 */
export function findPageLines(
  flat: PixelImage,
  shape: PageShape,
  { sideways = false, handwritten = false }: FindOptions = {},
): PageLine[] {
  const plane = lightnessPlane(flat);
  const toPhoto = pageToPhoto(shape);
  const pxPerFlatPx = shape.size.height / flat.height;
  const seen = (along: PageLine['along'], { x, y }: Point): Point =>
    roundTenth(
      along === 'across' ? toPhoto(x / flat.width, y / flat.height) : toPhoto(y / flat.width, x / flat.height),
    );
  return (['across', 'down'] as const).flatMap((along) => {
    const written = (along === 'across') !== sideways;
    const lying = along === 'across' ? plane : transposePlane(plane);
    const holes = findHoleRows(lying);
    const chains = evenlyChosen(linesAcross(lying, written, handwritten), MOST_LINES - holes.length);
    return [...chains, ...holes].map(({ places, stray }) => ({
      along,
      strayPx: Math.round(stray * pxPerFlatPx * 10) / 10,
      points: thinned(places).map((place) => seen(along, place)),
    }));
  });
}

const roundTenth = ({ x, y }: Point): Point => ({ x: Math.round(x * 10) / 10, y: Math.round(y * 10) / 10 });

/** @param written - whether writing runs along these lines: what letters make across it is chance */
function linesAcross(plane: Plane, written: boolean, handwritten: boolean): readonly Chain[] {
  const profiles = inkProfiles(plane);
  const flow = measureLineFlow(profiles);
  const chains = chainLines(profiles, plane.width, flow, !written);
  return chains.length < MIN_LINES && flow !== null && handwritten && written ? flowLines(flow, plane) : chains;
}

/** Lines along the flow, evenly down the page. */
const flowLines = (flow: LineFlow, { width, height }: Plane): Chain[] =>
  Array.from({ length: FLOW_LINES }, (_, k) => {
    const v = (k + 1) / (FLOW_LINES + 1);
    let y = v * height;
    const places = Array.from({ length: 4 * LINE_PLACES }, (__, i) => {
      const u = (i + 0.5) / (4 * LINE_PLACES);
      const place = { x: u * width, y };
      y += (flow.slopeAt(u, v) * height) / (4 * LINE_PLACES);
      return place;
    });
    return { stray: FLOW_STRAY_PX, places };
  });

/** At most so many of them, from the first to the last. */
function evenlyChosen(chains: readonly Chain[], most: number): readonly Chain[] {
  if (chains.length <= most) return chains;
  const sorted = [...chains].sort((p, q) => p.places[0]!.y - q.places[0]!.y);
  return Array.from({ length: most }, (_, k) => sorted[Math.round((k * (sorted.length - 1)) / (most - 1))]!);
}

/** LINE_PLACES places at most, each the mean of its neighbours. */
function thinned(places: readonly Point[]): readonly Point[] {
  const count = Math.min(LINE_PLACES, places.length);
  return Array.from({ length: count }, (_, k) => {
    const part = places.slice(Math.floor((k * places.length) / count), Math.floor(((k + 1) * places.length) / count));
    return {
      x: part.reduce((sum, p) => sum + p.x, 0) / part.length,
      y: part.reduce((sum, p) => sum + p.y, 0) / part.length,
    };
  });
}
