import { likeness } from '../live/frameFacts';

/** What is known of a page for advice on the order; null where it was not looked at or cannot be told. */
export interface PageFacts {
  readonly id: string;
  readonly blank: boolean;
  /** Of unit norm; pages whose prints are nearly the same look alike. */
  readonly fingerprint: Float32Array | null;
  /** The number printed or written on it, where it was read with confidence. */
  readonly number: number | null;
}

export type Advice =
  | { readonly kind: 'blank'; readonly id: string }
  | { readonly kind: 'alike'; readonly first: string; readonly second: string }
  /** The numbers on the pages ask for this order of all of them. */
  | { readonly kind: 'order'; readonly ids: readonly string[] }
  | { readonly kind: 'gap'; readonly after: number; readonly next: number }
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
    for (let j = i + 1; j < pages.length; j++) if (looksLike(pages[i]!, pages[j]!)) advice.push({ kind: 'alike', first: pages[i]!.id, second: pages[j]!.id });
  }
  const numbered = pages.filter((page): page is PageFacts & { number: number } => page.number !== null);
  if (numbered.length < LEAST_NUMBERED) return advice;
  const sorted = [...numbered].sort((a, b) => a.number - b.number);
  if (numbered.some((page, i) => page.number < (numbered[i - 1]?.number ?? -Infinity))) {
    // pages without a number go along behind the one they follow
    const queue = [...sorted];
    const behind = new Map<string | null, string[]>();
    let last: string | null = null;
    for (const { id, number } of pages) {
      if (number !== null) last = id;
      else behind.set(last, [...(behind.get(last) ?? []), id]);
    }
    advice.push({ kind: 'order', ids: [...(behind.get(null) ?? []), ...queue.flatMap(({ id }) => [id, ...(behind.get(id) ?? [])])] });
  }
  for (let i = 1; i < sorted.length; i++) {
    const before = sorted[i - 1]!;
    const here = sorted[i]!;
    if (here.number === before.number) advice.push({ kind: 'repeat', number: here.number, id: here.id });
    else if (here.number > before.number + 1) advice.push({ kind: 'gap', after: before.number, next: here.number });
  }
  return advice;
}

const looksLike = (a: PageFacts, b: PageFacts): boolean => !a.blank && !b.blank && a.fingerprint !== null && b.fingerprint !== null && likeness(a.fingerprint, b.fingerprint) >= ALIKE_FROM;
