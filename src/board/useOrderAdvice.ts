import { useEffect, useMemo } from 'react';
import { boundPages, type HandIn, type Page } from '../../core/handIn/handIn';
import { advise, type Advice } from '../../core/order/advise';
import { factsKey, gatherFacts, stopGathering, useFactsStore } from '../stores/factsStore';

const GATHER_AFTER_MS = 6000;

/** What the pages say about their order; they are looked at one after another while this is used. */
export function useOrderAdvice(handIn: HandIn): { readonly pages: readonly Page[]; readonly all: readonly Advice[]; readonly dismissed: readonly string[]; readonly blankPages: readonly string[] } {
  const facts = useFactsStore((s) => s.facts);
  const dismissed = useFactsStore((s) => s.dismissed);
  useEffect(() => {
    // the eye comes first: pictures of the pages are made in the meantime
    const later = setTimeout(() => void gatherFacts(handIn), GATHER_AFTER_MS);
    return () => {
      clearTimeout(later);
      stopGathering();
    };
  }, [handIn]);
  const pages = useMemo(() => boundPages(handIn), [handIn]);
  // every page is compared with every other: only when one of them has changed
  const all = useMemo(() => {
    const known = pages.flatMap((page) => {
      const own = facts[factsKey(page)];
      return own === undefined ? [] : [{ id: page.id, ...own }];
    });
    // what the numbers say only means something once every page has been looked at
    return advise(known).filter(({ kind }) => known.length === pages.length || kind === 'blank' || kind === 'alike');
  }, [pages, facts]);
  const blankPages = useMemo(() => pages.flatMap((page) => (facts[factsKey(page)]?.blank === true ? [page.id] : [])), [pages, facts]);
  return { pages, all, dismissed, blankPages };
}
