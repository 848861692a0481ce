import { create } from 'zustand';
import type { HandIn, Page } from '../../core/handIn/handIn';
import { shownPages } from '../../core/handIn/handIn';
import type { PageFacts } from '../../core/order/advise';
import { numberInText, questionInText } from '../../core/order/numberInText';
import { isPending } from '../../core/recipe/recipe';
import { loadOriginal } from '../pictures/loadOriginal';
import { readLines } from '../reading/reader';
import { longWorker } from '../workers/pageWorkers';
import { useIntakeStore } from './intakeStore';

/*
 * What each page shows, for advice on the order. Worked out one page after another while the board is looked at, and only in
 * memory: it can be made again.
 */

type Known = Omit<PageFacts, 'id'>;

interface FactsState {
  /** By what was looked at: the original, its edges and its turn. */
  readonly facts: Readonly<Record<string, Known>>;
  /** Pieces of advice a person waved away. */
  readonly dismissed: readonly string[];
}

export const useFactsStore = create<FactsState>(() => ({ facts: {}, dismissed: [] }));

export const factsKey = ({ originalId, pdfPage, recipe: { outline, quarterTurns, mends } }: Page): string => JSON.stringify([originalId, pdfPage, outline.corners, outline.bends, quarterTurns, mends]);

export const dismissAdvice = (key: string): void => useFactsStore.setState((s) => ({ dismissed: [...s.dismissed, key] }));

let running = false;
let wanted: HandIn | null = null;

/** Looks at the pages of a hand-in that were not looked at yet; a call while it runs goes on with the newest. */
export async function gatherFacts(handIn: HandIn): Promise<void> {
  wanted = handIn;
  if (running) return;
  running = true;
  try {
    for (let next = nextUnknown(); next !== null; next = nextUnknown()) await lookAt(next);
  } finally {
    running = false;
  }
}

export const stopGathering = (): void => void (wanted = null);

/** While pages still arrive or are looked for, that work comes first. */
function nextUnknown(): Page | null {
  if (wanted === null || useIntakeStore.getState().intakes.some(({ state }) => state === 'waiting' || state === 'working')) return null;
  const pages = shownPages(wanted);
  if (pages.some(({ recipe }) => isPending(recipe))) return null;
  return pages.find((page) => useFactsStore.getState().facts[factsKey(page)] === undefined) ?? null;
}

async function lookAt(page: Page): Promise<void> {
  const known = await longWorker
    .run({ kind: 'facts', original: await loadOriginal(page), recipe: page.recipe })
    .then(async ({ blank, fingerprint, strips }): Promise<Known> => {
      // without the engine (no connection) there is advice still, only none from numbers
      const lines = blank ? [] : await Promise.all(strips.map((strip) => readLines(strip).catch(() => []))).then((read) => read.flat());
      return { blank, fingerprint, number: numberInText(lines), question: questionInText(lines) };
    })
    .catch((): Known => ({ blank: false, fingerprint: null, number: null }));
  useFactsStore.setState((s) => ({ facts: { ...s.facts, [factsKey(page)]: known } }));
}
