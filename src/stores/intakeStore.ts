import { nanoid } from 'nanoid';
import { create } from 'zustand';
import { FotoplanError } from '../../core/errors';
import { boundPages } from '../../core/handIn/handIn';
import { longWorker } from '../workers/pageWorkers';
import { change, useHandInStore } from './handInStore';

/** A chosen photo on its way to being a page. */
export interface Intake {
  readonly id: string;
  readonly handInId: string;
  readonly fileName: string;
  readonly state: 'waiting' | 'working' | 'failed';
  readonly problem: string | null;
}

export const useIntakeStore = create<{ readonly intakes: readonly Intake[] }>(() => ({ intakes: [] }));

const patch = (id: string, changes: Partial<Intake>): void =>
  useIntakeStore.setState((s) => ({ intakes: s.intakes.map((intake) => (intake.id === id ? { ...intake, ...changes } : intake)) }));
const drop = (id: string): void => useIntakeStore.setState((s) => ({ intakes: s.intakes.filter((intake) => intake.id !== id) }));

export const dismissIntake = drop;

let queue: Promise<void> = Promise.resolve();

/** Takes photos in, one after another in the order given. A bad one is named and costs the others nothing. */
export function takeIn(handInId: string, files: readonly File[]): Promise<void> {
  const intakes = files.map((file): Intake => ({ id: nanoid(), handInId, fileName: file.name, state: 'waiting', problem: null }));
  useIntakeStore.setState((s) => ({ intakes: [...s.intakes, ...intakes] }));
  queue = files.reduce((before, file, i) => before.then(() => takeInOne(intakes[i]!, file)), queue);
  return queue;
}

async function takeInOne({ id, handInId, fileName }: Intake, file: File): Promise<void> {
  patch(id, { state: 'working' });
  try {
    // read now: a file picked from a card or a cloud folder may be gone later
    const bytes = await file.arrayBuffer().catch((cause: unknown) => {
      throw new FotoplanError('PHOTO_UNREADABLE', `“${fileName}” cannot be read from where it is. Copy it to this device first.`, {}, { cause });
    });
    const blob = new Blob([bytes], { type: file.type });
    const { originalId, width, height, recipe } = await longWorker.run({ kind: 'intake', blob, fileName, finish: usualFinish(handInId) });
    await change({ kind: 'addPage', handInId, pageId: nanoid(), originalId, fileName, width, height, recipe }, { id: originalId, fileName, blob });
    drop(id);
  } catch (error) {
    patch(id, { state: 'failed', problem: error instanceof FotoplanError ? error.message : `“${fileName}” could not be added. Try it again.` });
  }
}

/** New pages are lit like the page before them. */
function usualFinish(handInId: string): 'asshot' | 'daylight' {
  const handIn = useHandInStore.getState().handIns[handInId];
  return (handIn && boundPages(handIn).at(-1)?.recipe.finish) ?? 'daylight';
}
