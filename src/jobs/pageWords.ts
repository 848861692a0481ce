import { createStore, type StoreApi } from 'zustand/vanilla';
import { shownPages, type HandIn, type Page } from '../../core/work/hand-in/handIn';
import type { PageWord } from '../../core/work/words/pageWord';
import type { ReadLanguage } from '../../core/work/words/readLanguages';
import type { DerivedStore } from './derivedStore';
import { shapeKey } from './pageKey';
import type { Reader } from './reader';
import type { Scheduler } from './scheduler';
import type { SmallPictures } from './smallPictures';

export interface WordsState {
  /** By wordsKey. */
  readonly words: Readonly<Record<string, readonly PageWord[]>>;
  /** While a hand-in is being read: how many pages are done, of how many. */
  readonly reading: { readonly handInId: string; readonly done: number; readonly of: number } | null;
}

/** The words on each page, read once and kept by what the page looks like: squaring or mending it makes it another page to read, a finish does not. */
export interface PageWords {
  readonly state: StoreApi<WordsState>;
  /** Reads a page now where it was not read yet. */
  of(page: Page, language: ReadLanguage): Promise<readonly PageWord[]>;
  /** Reads all pages of a hand-in, so that it can be searched, until the signal ends it. */
  readAll(handIn: HandIn, signal: AbortSignal): Promise<void>;
}

export interface PageWordsOptions {
  readonly derived: DerivedStore;
  readonly small: SmallPictures;
  readonly scheduler: Scheduler;
  readonly reader: Reader;
}

/** As large as print needs to be for reading it: 200 dpi of A4. */
const READ_LONG_SIDE_PX = 2339;

/** What the words of a page depend on. */
export const wordsKey = (page: Page, language: ReadLanguage): string =>
  language === 'en' ? shapeKey(page) : `${shapeKey(page)} ${language}`;

/** Words that were kept before white print was read are read again. */
const keptAs = (key: string): string => `words with white print ${key}`;

export function createPageWords({ derived, small, scheduler, reader }: PageWordsOptions): PageWords {
  const state = createStore<WordsState>(() => ({ words: {}, reading: null }));

  async function readNow(page: Page, language: ReadLanguage): Promise<readonly PageWord[]> {
    const original = await small.whole(page);
    const toRead = await scheduler.run(
      { kind: 'toRead', original, recipe: page.recipe, longSidePx: READ_LONG_SIDE_PX },
      { priority: 'soon' },
    );
    return reader.words(toRead, language);
  }

  async function of(page: Page, language: ReadLanguage): Promise<readonly PageWord[]> {
    const key = wordsKey(page, language);
    const known = state.getState().words[key];
    if (known !== undefined) return known;
    const kept = await derived.get<readonly PageWord[]>(keptAs(key));
    const words = kept ?? (await readNow(page, language));
    if (kept === null) await derived.put(keptAs(key), words);
    state.setState((s) => ({ words: { ...s.words, [key]: words } }));
    return words;
  }

  return {
    state,
    of,
    async readAll(handIn, signal) {
      if (state.getState().reading !== null) return;
      const pages = shownPages(handIn);
      try {
        for (const [done, page] of pages.entries()) {
          if (signal.aborted) return;
          state.setState({ reading: { handInId: handIn.id, done, of: pages.length } });
          await of(page, handIn.binding.language);
        }
      } finally {
        state.setState({ reading: null });
      }
    },
  };
}
