import type { Coaching } from './coach';
import { likeness, type FrameFacts } from './frameFacts';
import type { SteadyState } from './steadyOutline';

/*
 * The shutter that presses itself. It fires when a page is believed, still and sharp for a moment, and is another page than
 * the last one kept; then it waits until what lies in the outline looks different. An empty desk has no believed outline, so
 * it never fires there; a page taken away and laid back is still the same page.
 */

const HOLD_MS = 700;
/** Fingerprints of one page under a moving hand stay above this; two pages of one hand's writing stay below. */
const SAME_PAGE_FROM = 0.8;
const SURE_FROM = 0.7;
/** Sharpness counts as enough from this share of the best seen lately. */
const SHARP_SHARE = 0.8;

export interface HandsFreeState {
  /** 0 to 1: how soon it fires. */
  readonly coming: number;
  readonly fire: boolean;
  /** The last page kept; null when any page may be taken. */
  readonly lastKept: Float32Array | null;
  readonly heldMs: number;
  readonly bestSharpness: number;
  readonly atMs: number;
}

export const HANDS_FREE_START: HandsFreeState = { coming: 0, fire: false, lastKept: null, heldMs: 0, bestSharpness: 0, atMs: -Infinity };

export function handsFree(before: HandsFreeState, coaching: Coaching, steady: SteadyState, facts: FrameFacts, nowMs: number): HandsFreeState {
  const sinceMs = Math.min(200, Math.max(0, nowMs - before.atMs));
  const bestSharpness = Math.max(facts.sharpness, before.bestSharpness * (1 - sinceMs / 8000));
  const base = { fire: false, bestSharpness, atMs: nowMs, lastKept: before.lastKept };
  const same = before.lastKept !== null && likeness(before.lastKept, facts.fingerprint) >= SAME_PAGE_FROM;
  const good = coaching === 'ready' && steady.confidence >= SURE_FROM && facts.sharpness >= SHARP_SHARE * bestSharpness && !same;
  if (!good) return { ...base, coming: 0, heldMs: Math.max(0, before.heldMs - 2 * sinceMs) };
  const heldMs = before.heldMs + sinceMs;
  if (heldMs < HOLD_MS) return { ...base, heldMs, coming: heldMs / HOLD_MS };
  return { ...base, fire: true, coming: 1, heldMs: 0, lastKept: facts.fingerprint };
}

/** After a shot by hand, so that the page just taken is not taken again. */
export const afterShot = (state: HandsFreeState, facts: FrameFacts): HandsFreeState => ({ ...state, coming: 0, fire: false, heldMs: 0, lastKept: facts.fingerprint });
