import { coach, type Coaching } from '../../../core/imaging/live/coach';
import { HANDS_FREE_START, handsFree, type HandsFreeState } from '../../../core/imaging/live/handsFree';
import { NOT_STEADY, steadyOutline, type SteadyState } from '../../../core/imaging/live/steadyOutline';
import type { SeenFrame } from './live/liveWorkerProtocol';

/** What the camera screen shows of the last frame, and what is remembered from those before. */
export interface LiveState {
  readonly coaching: Coaching;
  readonly steady: SteadyState;
  readonly handsFree: HandsFreeState;
  readonly lastSeen: SeenFrame | null;
}

export const LIVE_START: LiveState = {
  coaching: 'looking',
  steady: NOT_STEADY,
  handsFree: HANDS_FREE_START,
  lastSeen: null,
};

/** One frame on. @param handsFreeOn - while it is off nothing comes and nothing fires */
export function nextLiveState(before: LiveState, seen: SeenFrame, handsFreeOn: boolean): LiveState {
  const { width, height, facts, outline, atMs } = seen;
  const steady = steadyOutline(before.steady, outline, Math.max(width, height), atMs);
  const coaching = coach(steady, steady.shown === null ? [] : (outline?.outOfView ?? []), facts, width, height);
  const quiet = { ...before.handsFree, coming: 0, fire: false, heldMs: 0, atMs };
  return {
    coaching,
    steady,
    handsFree: handsFreeOn ? handsFree(before.handsFree, coaching, steady, facts, atMs) : quiet,
    lastSeen: seen,
  };
}
