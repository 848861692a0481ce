import { nanoid } from 'nanoid';
import { create } from 'zustand';
import { FotoplanError } from '../../core/errors';
import { boundPages, type HandIn } from '../../core/handIn/handIn';
import { fileNameFor } from '../../core/naming/fileNameFor';
import { loadOriginal } from '../pictures/loadOriginal';
import type { StoredBoundFile } from '../storage/localDatabase';
import { longWorker } from '../workers/pageWorkers';
import { services } from './services';
import { wakeSync } from './syncStore';

export type Binding = { readonly state: 'idle' } | { readonly state: 'binding'; readonly share: number; readonly stop: () => void } | { readonly state: 'failed'; readonly problem: string };

interface BoundFileState {
  readonly files: Readonly<Record<string, StoredBoundFile>>;
  readonly bindings: Readonly<Record<string, Binding>>;
}

export const useBoundFileStore = create<BoundFileState>(() => ({ files: {}, bindings: {} }));

/** What a bound file depends on; a change to any of it makes the file out of date. */
export const madeFromKey = (handIn: HandIn): string =>
  JSON.stringify([handIn.title, handIn.paper, boundPages(handIn).map(({ originalId, pdfPage, recipe }) => [originalId, pdfPage, recipe])]);

const setBinding = (handInId: string, binding: Binding): void => useBoundFileStore.setState((s) => ({ bindings: { ...s.bindings, [handInId]: binding } }));

export async function loadBoundFile(handInId: string): Promise<void> {
  const { db } = await services();
  const file = await db.get('boundFiles', handInId);
  if (file !== undefined) useBoundFileStore.setState((s) => ({ files: { ...s.files, [handInId]: file } }));
}

/** Makes the PDF on this device, keeps it, and sends it up behind everything else. */
export async function bindHandIn(handIn: HandIn): Promise<void> {
  const stopper = new AbortController();
  const show = (share: number): void => setBinding(handIn.id, { state: 'binding', share, stop: () => stopper.abort() });
  show(0);
  try {
    const pages = await Promise.all(
      boundPages(handIn).map(async (page) => ({ original: await loadOriginal(page), recipe: page.recipe })),
    );
    const nowMs = Date.now();
    const { pdf, sha256, pageBytes } = await longWorker.run({ kind: 'bind', title: handIn.title, paper: handIn.paper, nowMs, pages }, { onProgress: show, signal: stopper.signal });
    const file: StoredBoundFile = { handInId: handIn.id, id: nanoid(), name: fileNameFor(handIn.title), blob: pdf, sha256, pageBytes, boundAtMs: nowMs, madeFrom: madeFromKey(handIn) };
    const { db } = await services();
    const tx = db.transaction(['boundFiles', 'outbox'], 'readwrite');
    await Promise.all([tx.objectStore('boundFiles').put(file), tx.objectStore('outbox').add({ kind: 'boundFile', handInId: handIn.id }), tx.done]);
    useBoundFileStore.setState((s) => ({ files: { ...s.files, [handIn.id]: file } }));
    setBinding(handIn.id, { state: 'idle' });
    wakeSync();
  } catch (error) {
    const stopped = error instanceof FotoplanError && error.code === 'CANCELLED';
    setBinding(handIn.id, stopped ? { state: 'idle' } : { state: 'failed', problem: error instanceof FotoplanError ? error.message : 'The file could not be kept on this device. Free some space and bind again.' });
  }
}
