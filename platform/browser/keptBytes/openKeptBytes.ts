import { FotoplanError } from '../../../core/errors';
import type { KeptBytes } from '../../keptBytes';
import { openBufferBytes } from './bufferBytes';
import { openFileBytes } from './fileBytes';
import { storageError } from './storageError';

/** Whether what is written comes back. @throws with the browser's reason where it does not */
async function tried(place: KeptBytes): Promise<KeptBytes> {
  // another tab may be trying it at this moment
  const trial = `trial-${Math.random().toString(36).slice(2)}`;
  await place.put(trial, new Blob([new Uint8Array([1, 2, 3])]));
  const back = await place.get(trial);
  await place.delete(trial);
  if (back?.size !== 3)
    throw new FotoplanError(
      'STORAGE_FAILED',
      'The browser did not give back what it kept. Reload, then do this again.',
    );
  return place;
}

/**
 * Where this browser can really keep bytes, tried once: files of its own, else buffers in IndexedDB. What an earlier start
 * kept in the other place is still found.
 * @param openers - in the order of liking
 * @throws FotoplanError STORAGE_… where neither keeps anything
 */
export async function openKeptBytes(
  openers: readonly (() => Promise<KeptBytes>)[] = [openFileBytes, openBufferBytes],
): Promise<KeptBytes> {
  const opened: KeptBytes[] = [];
  let place: KeptBytes | null = null;
  let problem: unknown = null;
  for (const open of openers) {
    try {
      const one = await open();
      opened.push(one);
      place ??= await tried(one);
    } catch (error) {
      problem = error;
    }
  }
  if (place === null) {
    // a full device keeps nothing new, and still shows what it has
    if (opened.length === 0) throw storageError(problem);
    place = opened[0]!;
  }
  const writer = place;
  return {
    put: (name, bytes) => writer.put(name, bytes),
    async get(name) {
      for (const each of opened) {
        const found = await each.get(name);
        if (found !== null) return found;
      }
      return null;
    },
    delete: async (name) => void (await Promise.all(opened.map((each) => each.delete(name)))),
    list: async () => (await Promise.all(opened.map((each) => each.list()))).flat(),
    clear: async () => void (await Promise.all(opened.map((each) => each.clear()))),
  };
}
