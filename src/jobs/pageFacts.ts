import { createStore, type StoreApi } from 'zustand/vanilla';
import { shownPages, type HandIn, type Page } from '../../core/work/hand-in/handIn';
import type { PageFacts as Facts } from '../../core/work/order/advise';
import { numberInText, questionInText } from '../../core/work/order/numberInText';
import { isPending } from '../../core/work/recipe/recipe';
import type { DerivedStore } from './derivedStore';
import { shapeKey } from './pageKey';
import type { Reader } from './reader';
import type { Scheduler } from './scheduler';
import type { SmallPictures } from './smallPictures';

type Known = Omit<Facts, 'id'>;

/** What each page shows, for advice on the order: worked out once, kept by what the page looks like. */
export interface PageFacts {
  /** By shapeKey. */
  readonly state: StoreApi<{ readonly facts: Readonly<Record<string, Known>> }>;
  /** Looks at the pages of a hand-in that were not looked at yet, one after another, until the signal ends it. */
  gather(handIn: HandIn, signal: AbortSignal): Promise<void>;
}

export interface PageFactsOptions {
  readonly derived: DerivedStore;
  readonly small: SmallPictures;
  readonly scheduler: Scheduler;
  readonly reader: Reader;
}

export function createPageFacts({ derived, small, scheduler, reader }: PageFactsOptions): PageFacts {
  const state = createStore<{ readonly facts: Readonly<Record<string, Known>> }>(() => ({ facts: {} }));
  const know = (key: string, known: Known): void => state.setState((s) => ({ facts: { ...s.facts, [key]: known } }));

  async function lookAt(page: Page, signal: AbortSignal): Promise<void> {
    const key = shapeKey(page);
    if (state.getState().facts[key] !== undefined) return;
    const kept = await derived.get<Known>(`facts ${key}`);
    if (kept !== null) return know(key, kept);
    const original = await small.source(page, FACTS_FROM_PX, 'idle');
    const { blank, fingerprint, strips } = await scheduler.run(
      { kind: 'facts', original, recipe: page.recipe },
      { priority: 'idle', signal },
    );
    // without the engine (no connection) there is advice still, only none from numbers; then it is not kept
    let complete = true;
    const noLines = (): never[] => {
      complete = false;
      return [];
    };
    const lines = blank ? [] : (await Promise.all(strips.map((strip) => reader.lines(strip).catch(noLines)))).flat();
    const known: Known = { blank, fingerprint, number: numberInText(lines), question: questionInText(lines) };
    know(key, known);
    if (complete) await derived.put(`facts ${key}`, known);
  }

  return {
    state,
    async gather(handIn, signal) {
      const pages = shownPages(handIn);
      // while pages are still looked for, that work comes first
      if (pages.some(({ recipe }) => isPending(recipe))) return;
      for (const page of pages) {
        if (signal.aborted) return;
        // a page that cannot be looked at says nothing about the order
        await lookAt(page, signal).catch(
          () => signal.aborted || know(shapeKey(page), { blank: false, fingerprint: null, number: null }),
        );
      }
    },
  };
}
const FACTS_FROM_PX = 1500;
