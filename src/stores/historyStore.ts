import { create } from 'zustand';
import type { Change, HistoryStep, StoredHistory, StoredOriginal } from '../storage/localDatabase';
import { changeAll } from './handInStore';
import { services } from './services';
import { whileWriting } from './syncStore';

/*
 * What was done in each hand-in, in order, kept on this device so that it can be taken back after a reload too. A step holds
 * changes, not states: what another screen did meanwhile stays.
 */

type History = Omit<StoredHistory, 'handInId'>;

export const useHistoryStore = create<{ readonly histories: Readonly<Record<string, History>> }>(() => ({ histories: {} }));

const STEPS_KEPT = 200;
const NOTHING: History = { done: [], undone: [] };

const historyOf = (handInId: string): History => useHistoryStore.getState().histories[handInId] ?? NOTHING;

export async function loadHistories(): Promise<void> {
  const { db } = await services();
  const kept = await db.getAll('histories');
  useHistoryStore.setState(({ histories }) => ({ histories: { ...Object.fromEntries(kept.map(({ handInId, ...history }) => [handInId, history])), ...histories } }));
}

/** One after another: each sees what the one before it left. */
let turn: Promise<void> = Promise.resolve();
function inTurn(work: () => Promise<void>): Promise<void> {
  const mine = whileWriting(() => turn.then(work));
  turn = mine.catch(() => undefined);
  return mine;
}

function withStep({ done }: History, step: HistoryStep): History {
  const last = done.at(-1);
  const joined = step.group !== undefined && last?.group === step.group ? { ...step, forward: [...last.forward, ...step.forward], inverse: [...step.inverse, ...last.inverse] } : null;
  return { done: joined === null ? [...done, step].slice(-STEPS_KEPT) : [...done.slice(0, -1), joined], undone: [] };
}

/** Makes changes and keeps the history that then is so, both or neither. */
async function changeWith(handInId: string, changes: readonly Change[], history: History, original?: StoredOriginal): Promise<void> {
  await changeAll(changes, original, { handInId, ...history });
  useHistoryStore.setState((s) => ({ histories: { ...s.histories, [handInId]: history } }));
}

/**
 * Makes changes and notes the step that takes them back, all or nothing; what was taken back before can then no longer be done again.
 * @param original - the photo that the changes bring with them
 */
export const record = (handInId: string, changes: readonly Change[], step: HistoryStep, original?: StoredOriginal): Promise<void> =>
  inTurn(async () => {
    if (changes.length > 0) await changeWith(handInId, changes, withStep(historyOf(handInId), step), original);
  });

/** Does something that is done again just as it was done first. */
export const perform = (handInId: string, label: string, forward: readonly Change[], inverse: readonly Change[], original?: StoredOriginal): Promise<void> => record(handInId, forward, { label, forward, inverse }, original);

/** Takes back the latest step of a hand-in. */
export const undo = (handInId: string): Promise<void> =>
  inTurn(async () => {
    const { done, undone } = historyOf(handInId);
    const step = done.at(-1);
    if (step !== undefined) await changeWith(handInId, step.inverse, { done: done.slice(0, -1), undone: [...undone, step] });
  });

/** Does again what was taken back last. */
export const redo = (handInId: string): Promise<void> =>
  inTurn(async () => {
    const { done, undone } = historyOf(handInId);
    const step = undone.at(-1);
    if (step !== undefined) await changeWith(handInId, step.forward, { done: [...done, step], undone: undone.slice(0, -1) });
  });
