import type { Coaching } from './coach';
import { type FrameFacts } from './frameFacts';
import { fingerprintSimilarity } from '../quality/pageFingerprint';
import type { SteadyState } from './steadyOutline';

/*
 * The shutter that presses itself. It fires when a page is believed, still and sharp for a moment, and is another page than
 * the last one kept; then it waits until the page has changed. Pages of one hand on one paper look much alike, so what counts as
 * another depends on what happened since: after the page was gone or covered, a small difference is enough; while it just lay
 * there, only a large one is. An empty desk has no believed outline, so it never fires there.
 */

/** How long a page must lie still and sharp before it is shot: shorter shoots hands, longer tries patience. */
const HOLD_MS = 700;
/** A page that is away for this long has probably made room for the next. */
const GONE_MS = 300;
/** Likeness below which a page is covered so far that it counts as away. */
const COVERED_BELOW = 0.5;
/** Fingerprints of one page, seen again from a little elsewhere, stay above this; pages of one kind stay below it. */
const SAME_AFTER_CHANGE = 0.88;
/** What a page that was not moved stays above, whatever hand passes over it. */
const SAME_WHILE_LYING = 0.6;
/** Confidence of the outline from which a page is shot without being asked. */
const SURE_FROM = 0.7;
/** Sharpness counts as enough from this share of the best seen lately. */
const SHARP_SHARE = 0.7;
/** How long the best sharpness seen is remembered. */
const BEST_FORGOTTEN_MS = 8000;

export interface HandsFreeState {
  /** 0 to 1: how soon it fires. */
  readonly coming: number;
  readonly fire: boolean;
  /** The last page kept; null when any page may be taken. */
  readonly lastKept: Float32Array | null;
  /** The page was gone or covered since. */
  readonly changed: boolean;
  readonly goneMs: number;
  readonly heldMs: number;
  readonly bestSharpness: number;
  readonly atMs: number;
}

/** Before anything was seen. */
export const HANDS_FREE_START: HandsFreeState = {
  coming: 0,
  fire: false,
  lastKept: null,
  changed: false,
  goneMs: 0,
  heldMs: 0,
  bestSharpness: 0,
  atMs: -Infinity,
};

/**
 * One frame on. Method: see above.
 * @param coaching - what this frame is told; only 'ready' counts
 * @param facts - the frame's fingerprint and sharpness
 * @param nowMs - when it was taken; steps above 200 ms count as 200, so that a stall does not fire
 * @returns `fire` is true for the one frame at which to shoot; `lastKept` is then that frame's page
 */
export function handsFree(
  before: HandsFreeState,
  coaching: Coaching,
  steady: SteadyState,
  facts: FrameFacts,
  nowMs: number,
): HandsFreeState {
  const sinceMs = Math.min(200, Math.max(0, nowMs - before.atMs));
  // an outline found for the first time is not shown yet, but it is there
  const gone = steady.shown === null && steady.believedRuns === 0;
  const goneMs = gone ? before.goneMs + sinceMs : 0;
  const alike = before.lastKept === null ? -1 : fingerprintSimilarity(before.lastKept, facts.fingerprint);
  const changed = before.changed || goneMs >= GONE_MS || alike < COVERED_BELOW;
  const bestSharpness = Math.max(facts.sharpness, before.bestSharpness * (1 - sinceMs / BEST_FORGOTTEN_MS));
  const base = { fire: false, lastKept: before.lastKept, changed, goneMs, bestSharpness, atMs: nowMs };
  const another = alike < (changed ? SAME_AFTER_CHANGE : SAME_WHILE_LYING);
  const good =
    coaching === 'ready' && steady.confidence >= SURE_FROM && facts.sharpness >= SHARP_SHARE * bestSharpness && another;
  if (!good) return { ...base, coming: 0, heldMs: Math.max(0, before.heldMs - 2 * sinceMs) };
  const heldMs = before.heldMs + sinceMs;
  if (heldMs < HOLD_MS) return { ...base, heldMs, coming: heldMs / HOLD_MS };
  return { ...base, fire: true, coming: 1, heldMs: 0, lastKept: facts.fingerprint, changed: false };
}

/** After a shot by hand, so that the page just taken is not taken again. */
export const afterShot = (state: HandsFreeState, facts: FrameFacts): HandsFreeState => ({
  ...state,
  coming: 0,
  fire: false,
  heldMs: 0,
  lastKept: facts.fingerprint,
  changed: false,
});
