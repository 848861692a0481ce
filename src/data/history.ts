import type { Change } from './change';
import type { StepLabel } from './stepLabel';

/*
 * What was done in a hand-in, in order, kept on this device so that it can be taken back after a reload too. A step holds
 * changes, not states: what another screen did meanwhile stays.
 */

/** One thing a person did, and what takes it back. */
export interface HistoryStep {
  readonly label: StepLabel;
  readonly forward: readonly Change[];
  readonly inverse: readonly Change[];
  /** Steps of one group that follow each other are one. */
  readonly group?: string;
}

/** What was done, oldest first, and what was taken back, the next to do again last. */
export interface History {
  readonly done: readonly HistoryStep[];
  readonly undone: readonly HistoryStep[];
}
export interface StoredHistory extends History {
  readonly handInId: string;
}

export const NO_HISTORY: History = { done: [], undone: [] };

const STEPS_KEPT = 200;

/** The history with a new step; what was taken back before can then no longer be done again. */
export function withStep({ done }: History, step: HistoryStep): History {
  const last = done.at(-1);
  const joins = step.group !== undefined && last?.group === step.group;
  if (!joins) return { done: [...done, step].slice(-STEPS_KEPT), undone: [] };
  return {
    done: [
      ...done.slice(0, -1),
      { ...step, forward: [...last.forward, ...step.forward], inverse: [...step.inverse, ...last.inverse] },
    ],
    undone: [],
  };
}

/** The latest step and the history once it is taken back, or null. */
export function undone({
  done,
  undone: before,
}: History): { readonly step: HistoryStep; readonly after: History } | null {
  const step = done.at(-1);
  return step === undefined ? null : { step, after: { done: done.slice(0, -1), undone: [...before, step] } };
}

/** The step taken back last and the history once it is done again, or null. */
export function redone({
  done,
  undone: before,
}: History): { readonly step: HistoryStep; readonly after: History } | null {
  const step = before.at(-1);
  return step === undefined ? null : { step, after: { done: [...done, step], undone: before.slice(0, -1) } };
}
