import { create } from 'zustand';
import type { Change, HistoryStep, StoredHistory, StoredOriginal } from '../storage/localDatabase';
import { change } from './handInStore';
import { services } from './services';

/*
 * What was done in each hand-in, in order, kept on this device so that it can be taken back after a reload too. A step holds
 * changes, not states: what another screen did meanwhile stays.
 */

type History = Omit<StoredHistory, 'handInId'>;

export const useHistoryStore = create<{ readonly histories: Readonly<Record<string, History>> }>(() => ({ histories: {} }));

const STEPS_KEPT = 200;
const NOTHING: History = { done: [], undone: [] };

const historyOf = (handInId: string): History => useHistoryStore.getState().histories[handInId] ?? NOTHING;

async function keep(handInId: string, history: History): Promise<void> {
  const { db } = await services();
  // a full device goes without history; the changes themselves are kept
  await db.put('histories', { handInId, ...history }).catch(() => undefined);
  useHistoryStore.setState((s) => ({ histories: { ...s.histories, [handInId]: history } }));
}

export async function loadHistories(): Promise<void> {
  const { db } = await services();
  const kept = await db.getAll('histories');
  useHistoryStore.setState(({ histories }) => ({ histories: { ...Object.fromEntries(kept.map(({ handInId, ...history }) => [handInId, history])), ...histories } }));
}

/** One after another: each sees what the one before it left. */
let turn: Promise<void> = Promise.resolve();
const inTurn = (work: () => Promise<void>): Promise<void> => (turn = turn.then(work, work));

/** Notes what was done, so that it can be taken back; what was taken back before can then no longer be done again. */
export const remember = (handInId: string, step: HistoryStep): Promise<void> => inTurn(() => note(handInId, step));

async function note(handInId: string, step: HistoryStep): Promise<void> {
  const { done } = historyOf(handInId);
  const last = done.at(-1);
  const joined = step.group !== undefined && last?.group === step.group ? { ...step, forward: [...last.forward, ...step.forward], inverse: [...step.inverse, ...last.inverse] } : null;
  await keep(handInId, { done: joined === null ? [...done, step].slice(-STEPS_KEPT) : [...done.slice(0, -1), joined], undone: [] });
}

/**
 * Does something that can be taken back and done again.
 * @param inverse - takes it all back, in this order
 * @param original - the photo the first change brings with it
 */
export async function perform(handInId: string, label: string, forward: readonly Change[], inverse: readonly Change[], original?: StoredOriginal): Promise<void> {
  if (forward.length === 0) return;
  for (const [i, each] of forward.entries()) await change(each, i === 0 ? original : undefined);
  await remember(handInId, { label, forward, inverse });
}

/** Takes back the latest step of a hand-in. */
export const undo = (handInId: string): Promise<void> =>
  inTurn(async () => {
    const { done, undone } = historyOf(handInId);
    const step = done.at(-1);
    if (step === undefined) return;
    await keep(handInId, { done: done.slice(0, -1), undone: [...undone, step] });
    for (const each of step.inverse) await change(each);
  });

/** Does again what was taken back last. */
export const redo = (handInId: string): Promise<void> =>
  inTurn(async () => {
    const { done, undone } = historyOf(handInId);
    const step = undone.at(-1);
    if (step === undefined) return;
    await keep(handInId, { done: [...done, step], undone: undone.slice(0, -1) });
    for (const each of step.forward) await change(each);
  });
