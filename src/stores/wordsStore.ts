import { create } from 'zustand';
import { shownPages, type HandIn, type Page } from '../../core/handIn/handIn';
import type { PageWord } from '../../core/pdf/boundPage';
import { loadOriginal } from '../pictures/loadOriginal';
import { readWords } from '../reading/reader';
import { longWorker } from '../workers/pageWorkers';
import { factsKey } from './factsStore';
import { services } from './services';

/*
 * The words on each page, read once and kept on this device by what the page shows: turning, squaring or mending it makes it
 * another page to read, a finish does not.
 */

interface WordsState {
  readonly words: Readonly<Record<string, readonly PageWord[]>>;
  /** While a hand-in is being read: how many pages are done, of how many. */
  readonly reading: { readonly handInId: string; readonly done: number; readonly of: number } | null;
}

export const useWordsStore = create<WordsState>(() => ({ words: {}, reading: null }));

/** As large as print needs to be for reading it: 200 dpi of A4. */
const READ_LONG_SIDE_PX = 2339;

/** The words of a page, read now where they are not known yet. */
export async function pageWords(page: Page): Promise<readonly PageWord[]> {
  const key = factsKey(page);
  const known = useWordsStore.getState().words[key];
  if (known !== undefined) return known;
  const { db } = await services();
  const kept = await db.get('readings', key);
  const words = kept?.words ?? (await readNow(page));
  if (kept === undefined) await db.put('readings', { key, words }).catch(() => undefined);
  useWordsStore.setState((s) => ({ words: { ...s.words, [key]: words } }));
  return words;
}

async function readNow(page: Page): Promise<readonly PageWord[]> {
  const { picture, width, height } = await longWorker.run({ kind: 'render', original: await loadOriginal(page), recipe: page.recipe, longSidePx: READ_LONG_SIDE_PX });
  return readWords(picture, width, height);
}

let stopped = false;
export const stopReading = (): void => void (stopped = true);

/** Reads all pages of a hand-in, one after another, so that it can be searched. A page that cannot be read has no words. */
export async function readHandIn(handIn: HandIn): Promise<void> {
  if (useWordsStore.getState().reading !== null) return;
  stopped = false;
  const pages = shownPages(handIn);
  try {
    for (const [done, page] of pages.entries()) {
      if (stopped) return;
      useWordsStore.setState({ reading: { handInId: handIn.id, done, of: pages.length } });
      await pageWords(page);
    }
  } finally {
    useWordsStore.setState({ reading: null });
  }
}

export interface Hit {
  readonly pageId: string;
  readonly words: readonly PageWord[];
}

const plain = (text: string): string => text.normalize('NFKD').replace(/\p{M}/gu, '').toLowerCase();

/** Words in which something occurs, page by page; what was not read yet has none. */
export function findWords(handIn: HandIn, sought: string, words: WordsState['words']): readonly Hit[] {
  const wanted = plain(sought.trim());
  if (wanted === '') return [];
  return shownPages(handIn).flatMap((page) => {
    const found = (words[factsKey(page)] ?? []).filter(({ text }) => plain(text).includes(wanted));
    return found.length === 0 ? [] : [{ pageId: page.id, words: found }];
  });
}
