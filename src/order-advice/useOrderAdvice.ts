import { useEffect, useMemo } from 'react';
import { boundPages, type HandIn, type Page } from '../../core/work/hand-in/handIn';
import { advise, type Advice } from '../../core/work/order/advise';
import { useStore } from 'zustand';
import { useEngine } from '../engine/useEngine';
import { shapeKey } from '../jobs/pageKey';
import { useDismissedAdvice } from './dismissedAdvice';

/** What the pages say about their order; they are looked at one after another while this is used. */
export function useOrderAdvice(handIn: HandIn): {
  readonly pages: readonly Page[];
  readonly all: readonly Advice[];
  readonly dismissed: readonly string[];
  readonly blankPages: readonly string[];
  /** Those that were not looked at yet. */
  readonly unseenPages: readonly string[];
} {
  const engine = useEngine();
  const facts = useStore(engine.facts.state, (s) => s.facts);
  const dismissed = useDismissedAdvice((s) => s.dismissed);
  useEffect(() => {
    const stopper = new AbortController();
    void engine.facts.gather(handIn, stopper.signal);
    return () => stopper.abort();
  }, [engine, handIn]);
  const pages = useMemo(() => boundPages(handIn), [handIn]);
  // every page is compared with every other: only when one of them has changed
  const all = useMemo(() => {
    const known = pages.flatMap((page) => {
      const own = facts[shapeKey(page)];
      return own === undefined ? [] : [{ id: page.id, ...own }];
    });
    // what the numbers say only means something once every page has been looked at
    return advise(known).filter(({ kind }) => known.length === pages.length || kind === 'blank' || kind === 'alike');
  }, [pages, facts]);
  const blankPages = useMemo(
    () => pages.flatMap((page) => (facts[shapeKey(page)]?.blank === true ? [page.id] : [])),
    [pages, facts],
  );
  const unseenPages = useMemo(
    () => pages.flatMap((page) => (facts[shapeKey(page)] === undefined ? [page.id] : [])),
    [pages, facts],
  );
  return { pages, all, dismissed, blankPages, unseenPages };
}
