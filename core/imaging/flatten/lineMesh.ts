import { createNormalEquations } from '../geometry/normalEquations';
import type { Point } from '../geometry/point';
import { tukeyWeight } from '../geometry/tukeyWeight';
import { quantile } from '../raster/quantile';
import type { LocatedLine } from './lineEvidence';
import { MIN_LINES } from './pageLine';

/*
 * What lines say beyond a sheet that bends along straight rulings: paper that was crumpled, or a lens whose distortion is not
 * radial. Where lines lie on the fitted sheet they are not quite straight and parallel; a smooth mesh of moves on top makes them so.
 * Each way of lines moves places across itself only, and none at the page's sides, which the sheet already follows.
 */

/** Nodes of the mesh across a page, and down: every 26 mm of A4's width. Fewer do not follow a crumple, more have a line each. */
const NODES = [9, 12] as const;
/** How stiff it is: what a node's leaving the middle of its neighbours costs beside a place on a line. Lower follows noise. */
const STIFFNESS = 0.1;
/** What it costs to leave the sheet, where no line is near. */
const PULL = 0.01;
/** Cut-off of the robust fit, in page heights: 0.9 mm of A4. */
const CUT_OFF = 0.003;
const ROUNDS = 3;
/** Lines that are straight to so much on the sheet, as a standard deviation in page heights, need no mesh: 0.09 mm of A4. */
const STRAIGHT_WITHIN = 0.0003;
/** A mesh must take so large a share of that away, or lines contradict each other. */
const LEAST_GAIN = 0.3;
/** Between two nodes it changes by less than this share of their distance: it never folds. */
const MOST_SLOPE = 0.25;

/** Where a place of the page is on the sheet, both in shares of the page. */
export type Move = (u: number, v: number) => Point;

/**
 * The mesh of moves that straightens the lines of a page.
 * @param lines - located on the sheet
 * @param aspect - of the page, width over height
 * @returns null where they are straight already, or no smooth mesh makes them so
 */
export function lineMesh(lines: readonly LocatedLine[], aspect: number): Move | null {
  const [down, right] = [true, false].map((across) =>
    meshOf(
      lines.filter((line) => line.across === across),
      across ? 1 : aspect,
    ),
  );
  if (down === null && right === null) return null;
  return (u, v) => ({ x: u + (right ? right(v, u) : 0), y: v + (down ? down(u, v) : 0) });
}

/** How far places are moved across lines, in shares of the page, by where they are along and across. */
type Offset = (along: number, across: number) => number;

interface Place {
  readonly along: number;
  readonly across: number;
  /** How far it is off its line, had that the slope that the lines have in the middle; in shares of the page. */
  readonly off: number;
}

/** @param size - of the page across the lines, in page heights */
function meshOf(lines: readonly LocatedLine[], size: number): Offset | null {
  if (lines.length < MIN_LINES) return null;
  // lines that all slope alike were drawn so
  const courses = lines.map(courseOf);
  const slope = quantile(courses.map(slopeOf), 0.5);
  const places = courses.flatMap((course) => placesOf(course, slope));
  const deviation = (off: (place: Place) => number): number =>
    size * Math.sqrt(places.reduce((sum, place) => sum + off(place) ** 2, 0) / Math.max(1, places.length));
  const before = deviation(({ off }) => off);
  if (before < STRAIGHT_WITHIN) return null;
  const nodes = fitNodes(places, CUT_OFF / size);
  if (nodes === null) return null;
  const offset: Offset = (along, across) => weighNodes(along, across, (k, weight) => weight * nodes[k]!);
  const after = deviation(({ along, across, off }) => off - offset(along, across));
  return after > (1 - LEAST_GAIN) * before || folds(nodes) ? null : offset;
}

/** A line's places, along it and across, from its middle; in shares of the page. */
interface Course {
  readonly middle: readonly [number, number];
  readonly places: readonly (readonly [number, number])[];
}

function courseOf({ across, at }: LocatedLine): Course {
  const all = Array.from({ length: at.length / 2 }, (_, i) =>
    across ? ([at[2 * i]!, at[2 * i + 1]!] as const) : ([at[2 * i + 1]!, at[2 * i]!] as const),
  );
  const middle = [0, 1].map((k) => all.reduce((sum, place) => sum + place[k]!, 0) / all.length) as [number, number];
  return { middle, places: all.map(([x, y]) => [x - middle[0], y - middle[1]]) };
}

/** How much a line sinks along it. */
function slopeOf({ places }: Course): number {
  const [xx, xy] = places.reduce(([p, q], [x, y]) => [p + x * x, q + x * y], [0, 0]);
  return xy / xx;
}

const placesOf = ({ middle, places }: Course, slope: number): Place[] =>
  places.map(([x, y]) => ({ along: middle[0] + x, across: middle[1], off: y - slope * x }));

const [COLUMNS, ROWS] = NODES;

/** Adds up over the four nodes around a place, by how near they are. */
function weighNodes(along: number, across: number, add: (node: number, weight: number) => number): number {
  const [x, y] = [clamp(along) * (COLUMNS - 1), clamp(across) * (ROWS - 1)];
  const [i, j] = [Math.min(COLUMNS - 2, Math.floor(x)), Math.min(ROWS - 2, Math.floor(y))];
  let sum = 0;
  for (const [di, dj] of CORNERS)
    sum += add((j + dj) * COLUMNS + i + di, (di === 1 ? x - i : 1 - (x - i)) * (dj === 1 ? y - j : 1 - (y - j)));
  return sum;
}

const CORNERS = [
  [0, 0],
  [1, 0],
  [0, 1],
  [1, 1],
] as const;

const clamp = (share: number): number => Math.min(1, Math.max(0, share));

/** The moves at the nodes, by robust least squares; null where the places do not determine them. */
function fitNodes(places: readonly Place[], cutOff: number): Float64Array | null {
  const count = COLUMNS * ROWS;
  let nodes: Float64Array | null = null;
  for (let round = 0; round < ROUNDS; round++) {
    const equations = createNormalEquations(count);
    for (const { along, across, off } of places) {
      const row = new Float64Array(count);
      const known = nodes;
      const expected = weighNodes(along, across, (k, weight) => {
        row[k] = weight;
        return known === null ? off * weight : weight * known[k]!;
      });
      equations.add(row, off, tukeyWeight((off - expected) / cutOff));
    }
    for (const [before, node, after] of neighbours()) {
      const row = new Float64Array(count);
      row[before] = 1;
      row[node] = -2;
      row[after] = 1;
      equations.add(row, 0, STIFFNESS);
    }
    nodes = equations.solve((k) => (isAtSide(k) ? HELD : PULL));
    if (nodes === null) return null;
  }
  return nodes;
}

/** Weight of a node that stays where it is. */
const HELD = 1e6;
/** The sides that run along the lines are where the sheet has them. */
const isAtSide = (node: number): boolean => node < COLUMNS || node >= COLUMNS * (ROWS - 1);

/** Every three nodes in a row, along the lines and across. */
function neighbours(): (readonly [number, number, number])[] {
  const all: (readonly [number, number, number])[] = [];
  for (let j = 0; j < ROWS; j++)
    for (let i = 0; i < COLUMNS; i++) {
      const node = j * COLUMNS + i;
      if (i > 0 && i < COLUMNS - 1) all.push([node - 1, node, node + 1]);
      if (j > 0 && j < ROWS - 1) all.push([node - COLUMNS, node, node + COLUMNS]);
    }
  return all;
}

/** Whether neighbouring nodes across the lines come too near to each other. */
const folds = (nodes: Float64Array): boolean =>
  nodes.some((move, k) => k >= COLUMNS && Math.abs(move - nodes[k - COLUMNS]!) * (ROWS - 1) > MOST_SLOPE);
