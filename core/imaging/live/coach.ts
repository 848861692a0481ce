import { distance } from '../geometry/point';
import { polygonArea, type Quad } from '../geometry/quad';
import type { FrameFacts } from './frameFacts';
import type { SteadyState } from './steadyOutline';

/** One thing to do at a time, most in the way first. */
export const COACHINGS = [
  'looking',
  'tooDark',
  'sideOut',
  'comeCloser',
  'tiltFlat',
  'glare',
  'holdStill',
  'ready',
] as const;
export type Coaching = (typeof COACHINGS)[number];

/** Mean level below which it is too dark. */
const DARK_BELOW = 70;
/** Corners nearer to the frame's border than this share of its long side count as out. */
const BORDER_SHARE = 0.008;
/** Share of the frame that the page must cover: below, small print is lost. */
const LEAST_PAGE_SHARE = 0.28;
/** A level phone sees opposite sides alike: more than this and the far side loses resolution. */
const MOST_SIDE_RATIO = 1.35;
/** Speed of the outline up to which the hand is still, in frame widths a second. */
const STILL_BELOW = 0.25;
/** How long the outline must have been shown before a shot is offered. */
const SETTLED_MS = 250;

/**
 * What to tell the person about this frame.
 * @param steady - the steadied outline, frame pixels
 * @param outOfView - sides of the found outline that lie on the frame's border
 * @param width - of the frame, px
 */
export function coach(
  steady: SteadyState,
  outOfView: readonly boolean[],
  facts: FrameFacts,
  width: number,
  height: number,
): Coaching {
  if (facts.brightness < DARK_BELOW) return 'tooDark';
  const { shown } = steady;
  if (shown === null) return 'looking';
  if (outOfView.some(Boolean) || runsOut(shown, width, height)) return 'sideOut';
  if (polygonArea(shown) < LEAST_PAGE_SHARE * width * height) return 'comeCloser';
  if (sideRatio(shown) > MOST_SIDE_RATIO) return 'tiltFlat';
  if (facts.glareAt !== null) return 'glare';
  if (steady.speed > STILL_BELOW || steady.shownForMs < SETTLED_MS) return 'holdStill';
  return 'ready';
}

function runsOut(quad: Quad, width: number, height: number): boolean {
  const margin = BORDER_SHARE * Math.max(width, height);
  return quad.some((p) => p.x < margin || p.y < margin || p.x > width - margin || p.y > height - margin);
}

/** The longer over the shorter of each pair of opposite sides, the worse pair. */
function sideRatio([tl, tr, br, bl]: Quad): number {
  const ratio = (a: number, b: number): number => Math.max(a, b) / Math.max(1, Math.min(a, b));
  return Math.max(ratio(distance(tl, tr), distance(bl, br)), ratio(distance(tl, bl), distance(tr, br)));
}
