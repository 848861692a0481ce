import { pointOnBentSide } from '../geometry/bentOutline';
import { distance, distanceToLine, lineCrossing, type Point } from '../geometry/point';
import { mapQuad, type Quad } from '../geometry/quad';
import type { SheetEvidence } from './fittedSheet';
import { flatPose, turnedSheet } from './flatPose';
import { modesOf, PARAMETER, STEPS } from './sheetModel';

/*
 * Where a fit begins for a sheet one of whose corners lifts off: the sides that meet there are straight for their first part,
 * which says where the corner would lie, and where they leave it, which says along which ruling the sheet begins to rise.
 */

/** Share of a side next to the other corner that is taken to lie flat. */
const LYING = 0.4;
/** A side has left its straight course where it is this far from it, as a share of its length. */
const LEFT_COURSE = 0.003;
/** Steps in which that is looked for. */
const STEP = 0.05;
/** A corner that is this far from where it would lie, as a share of the diagonal, lifts. */
const MIN_LIFT = 0.004;
/** Corners tried. */
const MOST_TRIED = 2;
/** Width over height of the page while rulings are guessed: between A4 and Letter. */
const GUESSED_ASPECT = 0.74;
/** How steep the corner is at its end to begin with, in rad: the middle of what paper does. */
const FIRST_SLOPE = 0.5;

/** A guess at a sheet, as parameters of the model. */
export interface Start {
  readonly parameters: Float64Array;
  /** Direction across the rulings, in rad on the page. */
  readonly ruling: number;
}

/** What the two sides that meet in a corner say of it. */
interface Lifted {
  readonly corner: number;
  /** Where it would lie. */
  readonly lying: Point;
  /** How far it is from there, as a share of the diagonal. */
  readonly off: number;
  /** How far from the corner its sides leave their course, as shares: the one before it and the one after it. */
  readonly begins: readonly [number, number];
}

/** Starts for the corners that seem to lift, the most lifted first; none where none does. */
export function likelyLifts(evidence: SheetEvidence, modes: number): readonly Start[] {
  return [0, 1, 2, 3]
    .flatMap((corner) => liftOf(evidence, corner) ?? [])
    .filter(({ off }) => off > MIN_LIFT)
    .sort((p, q) => q.off - p.off)
    .slice(0, MOST_TRIED)
    .map((lift) => startOf(evidence, lift, modes));
}

function liftOf({ corners, bends }: SheetEvidence, corner: number): Lifted | null {
  const [before, after] = [(corner + 3) % 4, (corner + 1) % 4];
  const [a, c, b] = [corners[before]!, corners[corner]!, corners[after]!];
  // both sides from the corner on
  const onBefore = (t: number): Point => pointOnBentSide(a, c, bends[before]!, 1 - t);
  const onAfter = (t: number): Point => pointOnBentSide(c, b, bends[corner]!, t);
  const lying = lineCrossing(a, onBefore(1 - LYING), b, onAfter(1 - LYING));
  if (lying === null) return null;
  return {
    corner,
    lying,
    off: distance(lying, c) / distance(corners[(corner + 2) % 4]!, c),
    begins: [leavesAt(onBefore, a), leavesAt(onAfter, b)],
  };
}

/** How far from the corner a side leaves the straight course it has at its far end, as a share of it; where it does not seem to, it may rise towards the camera. */
function leavesAt(on: (t: number) => Point, far: Point): number {
  const length = distance(far, on(0));
  for (let t = 1 - LYING; t > 2 * STEP; t -= STEP)
    if (Math.abs(distanceToLine(on(t), far, on(1 - LYING))) > LEFT_COURSE * length) return t + STEP;
  return 1 - LYING;
}

function startOf(evidence: SheetEvidence, { corner, lying, begins }: Lifted, modes: number): Start {
  // the side before the first and the third corner runs down the page
  const [onWidth, onHeight] = corner % 2 === 0 ? [begins[1], begins[0]] : [begins[0], begins[1]];
  const [x, y] = [1 / (onWidth * GUESSED_ASPECT), 1 / onHeight]; // across the ruling
  const length = Math.hypot(x, y);
  const ruling = Math.atan2(corner >= 2 ? y : -y, corner === 1 || corner === 2 ? x : -x);
  const extent = (GUESSED_ASPECT * x + y) / length; // of the page, from the corner opposite to this one
  const from = 1 - 1 / length / extent;
  const slopes = Array.from({ length: STEPS }, (_, i) =>
    Math.min(0, -FIRST_SLOPE * (((i + 0.5) / STEPS - from) / (1 - from))),
  );
  // the model's slopes have no mean: that is the sheet's pose
  const mean = slopes.reduce((sum, slope) => sum + slope) / STEPS;
  const laid: Quad = mapQuad(evidence.corners, (p, k) => (k === corner ? lying : p));
  const axis = [Math.sin(ruling) * mean, -Math.cos(ruling) * mean, 0] as const;
  const parameters = turnedSheet(flatPose(laid, evidence, modes), axis);
  parameters[PARAMETER.ruling] = ruling;
  parameters.set(modesOf(slopes, modes), PARAMETER.slopes);
  return { parameters, ruling };
}
