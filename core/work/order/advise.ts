import { fingerprintSimilarity } from '../../imaging/quality/pageFingerprint';

/** What is known of a page for advice on the order; null where it was not looked at or cannot be told. */
export interface PageFacts {
  readonly id: string;
  readonly blank: boolean;
  /** Of unit norm; pages whose prints are nearly the same look alike. */
  readonly fingerprint: Float32Array | null;
  /** The number printed or written on it, where it was read with confidence. */
  readonly number: number | null;
  /** The first question or task that begins on it, where that was read; several pages may belong to one. */
  readonly question?: number | null;
}

export type Advice =
  | { readonly kind: 'blank'; readonly id: string }
  | { readonly kind: 'alike'; readonly first: string; readonly second: string }
  /** The numbers on the pages ask for this order of all of them. */
  | { readonly kind: 'order'; readonly ids: readonly string[] }
  | { readonly kind: 'gap'; readonly of: 'page' | 'question'; readonly after: number; readonly next: number }
  | { readonly kind: 'repeat'; readonly number: number; readonly id: string };

/** Two shots of one page correlate above this; two pages of one form filled in by one hand stay below. */
const ALIKE_FROM = 0.94;
/** Fewer numbered pages than this say nothing about the order. */
const LEAST_NUMBERED = 2;

/**
 * Looks over the pages in their order and says what a careful person would: which are blank, which lie there twice, and what
 * the numbers on them say. Suggestions only.
 */
export function advise(pages: readonly PageFacts[]): readonly Advice[] {
  const advice: Advice[] = [];
  for (const { id, blank } of pages) if (blank) advice.push({ kind: 'blank', id });
  for (let i = 0; i < pages.length; i++) {
    for (let j = i + 1; j < pages.length; j++)
      if (looksLike(pages[i]!, pages[j]!)) advice.push({ kind: 'alike', first: pages[i]!.id, second: pages[j]!.id });
  }
  const byNumber = pages.filter(({ number }) => number !== null).length >= LEAST_NUMBERED;
  // questions speak only where no page numbers do
  const keys = new Map(pages.map(({ id, number, question = null }) => [id, byNumber ? number : question]));
  const numbered = pages.flatMap(({ id }) => {
    const key = keys.get(id) ?? null;
    return key === null ? [] : [{ id, key }];
  });
  if (numbered.length < LEAST_NUMBERED) return advice;
  const sorted = [...numbered].sort((a, b) => a.key - b.key);
  if (numbered.some(({ key }, i) => key < (numbered[i - 1]?.key ?? -Infinity))) {
    // pages without a number go along behind the one they follow
    const behind = new Map<string | null, string[]>();
    let last: string | null = null;
    for (const { id } of pages) {
      if (keys.get(id) !== null) last = id;
      else behind.set(last, [...(behind.get(last) ?? []), id]);
    }
    advice.push({
      kind: 'order',
      ids: [...(behind.get(null) ?? []), ...sorted.flatMap(({ id }) => [id, ...(behind.get(id) ?? [])])],
    });
  }
  for (let i = 1; i < sorted.length; i++) {
    const before = sorted[i - 1]!;
    const here = sorted[i]!;
    // an answer may go on for pages, a page number may not
    if (byNumber && here.key === before.key) advice.push({ kind: 'repeat', number: here.key, id: here.id });
    else if (here.key > before.key + 1)
      advice.push({ kind: 'gap', of: byNumber ? 'page' : 'question', after: before.key, next: here.key });
  }
  return advice;
}

const looksLike = (a: PageFacts, b: PageFacts): boolean =>
  !a.blank &&
  !b.blank &&
  a.fingerprint !== null &&
  b.fingerprint !== null &&
  fingerprintSimilarity(a.fingerprint, b.fingerprint) >= ALIKE_FROM;
