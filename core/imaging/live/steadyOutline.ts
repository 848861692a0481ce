import { distance } from '../geometry/point';
import { mapQuad, type Quad } from '../geometry/quad';
import type { LiveOutline } from './findLiveOutline';

/*
 * An outline that does not tremble and does not lag: a still page is held still, a moving one is followed at once.
 * Method: each corner goes through a low-pass whose cut-off rises with its speed (the 1 € filter: Casiez, Roussel & Vogel,
 * CHI 2012). An outline is shown only once it has been believed in two frames running, and taken away when it has not been
 * believed for a few; one that jumps elsewhere starts anew instead of sliding over.
 */

/** Below this a found outline is not shown. */
export const SHOW_FROM = 0.5;
/** Times in a row that an outline must be found before it is shown. */
const BELIEVED_RUNS = 2;
/** How long the last outline is shown when none is found. */
const FORGET_AFTER_MS = 350;
/** A corner that moved by more than this share of the page between two frames belongs to another outline. */
const JUMP_SHARE = 0.2;
/** Cut-off of the smoothing at rest, Hz. */
const REST_HZ = 1.2;
/** How fast it rises with speed in frame widths a second. */
const HZ_PER_SPEED = 40;
/** Cut-off of the speed's own smoothing, Hz. */
const SPEED_HZ = 4;

export interface SteadyState {
  /** What to draw, in frame pixels, or null. */
  readonly shown: Quad | null;
  readonly confidence: number;
  /** How far the outline moves, in frame long sides a second, smoothed. */
  readonly speed: number;
  /** How long it has been shown without a break. */
  readonly shownForMs: number;
  readonly believedRuns: number;
  readonly believedAtMs: number;
  readonly atMs: number;
}

/** Before anything was found. */
export const NOT_STEADY: SteadyState = {
  shown: null,
  confidence: 0,
  speed: 0,
  shownForMs: 0,
  believedRuns: 0,
  believedAtMs: -Infinity,
  atMs: -Infinity,
};

/**
 * Follows the outline from frame to frame: smoothed by speed, so that it neither trembles at rest nor lags behind a move.
 * @param found - what this frame gave, or null
 * @param longSidePx - the frame's, so that speed does not depend on its size
 * @param nowMs - when the frame was taken; later than the last
 */
export function steadyOutline(
  before: SteadyState,
  found: LiveOutline | null,
  longSidePx: number,
  nowMs: number,
): SteadyState {
  const sinceMs = Math.max(1, nowMs - before.atMs);
  if (found === null || found.confidence < SHOW_FROM) {
    if (nowMs - before.believedAtMs > FORGET_AFTER_MS) return { ...NOT_STEADY, atMs: nowMs };
    return {
      ...before,
      confidence: before.confidence * 0.8,
      shownForMs: before.shown === null ? 0 : before.shownForMs + sinceMs,
      believedRuns: 0,
      atMs: nowMs,
    };
  }
  const size = Math.sqrt(distance(found.quad[0], found.quad[2]) * distance(found.quad[1], found.quad[3]));
  const aligned = before.shown === null ? found.quad : nearestTurn(found.quad, before.shown);
  const moved = before.shown === null ? 0 : Math.max(...aligned.map((p, i) => distance(p, before.shown![i]!)));
  const jumped = moved > JUMP_SHARE * size;
  const runs = jumped ? 1 : before.believedRuns + 1;
  if (before.shown === null || jumped) {
    return {
      shown: runs >= BELIEVED_RUNS ? found.quad : null,
      confidence: found.confidence,
      speed: 1,
      shownForMs: 0,
      believedRuns: runs,
      believedAtMs: nowMs,
      atMs: nowMs,
    };
  }
  const seconds = sinceMs / 1000;
  const speed = before.speed + passed(SPEED_HZ, seconds) * (moved / longSidePx / seconds - before.speed);
  const share = passed(REST_HZ + HZ_PER_SPEED * (moved / longSidePx / seconds), seconds);
  const shown = mapQuad(before.shown, (p, i) => ({
    x: p.x + share * (aligned[i]!.x - p.x),
    y: p.y + share * (aligned[i]!.y - p.y),
  }));
  return {
    shown,
    confidence: found.confidence,
    speed,
    shownForMs: before.shownForMs + sinceMs,
    believedRuns: runs,
    believedAtMs: nowMs,
    atMs: nowMs,
  };
}

/** The share of a step that a first-order low-pass lets through in this time. */
const passed = (cutOffHz: number, seconds: number): number => 1 - 1 / (1 + 2 * Math.PI * cutOffHz * seconds);

/** The same quadrilateral with its corners renamed so that each is nearest to the reference's. */
function nearestTurn(quad: Quad, reference: Quad): Quad {
  const turned = [0, 1, 2, 3].map((k): Quad => mapQuad(quad, (_, i) => quad[(i + k) % 4]!));
  const miss = (q: Quad): number => q.reduce((sum, p, i) => sum + distance(p, reference[i]!), 0);
  return turned.reduce((best, q) => (miss(q) < miss(best) ? q : best));
}
