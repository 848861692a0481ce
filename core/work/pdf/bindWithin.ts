import { FotoplanError } from '../../errors';
import { readableBytes } from '../../readableBytes';
import { codingAt, FINEST, type CodedPage, type Coding } from '../../imaging/layers/codedPage';
import { planSizes, type SizedPage } from './planSizes';

export interface BoundFilePart<F> {
  readonly file: F;
  /** Pages in it, from 0, the last one within. */
  readonly first: number;
  readonly last: number;
}

export interface BoundResult<F> {
  /** One, unless parts were asked for and needed. */
  readonly files: readonly BoundFilePart<F>[];
  /** What each page brings to the file. */
  readonly pageBytes: readonly number[];
  /** For each page, how much of its sharpness was given up for the limit: 0 for none, 100 for all that may be. */
  readonly codings: readonly number[];
}

export interface WeighedPage<P> {
  readonly page: P;
  /** What it brings to the file. */
  readonly bytes: number;
  /** How it is coded; null where it comes as it is, and no coarser coding will make it smaller. */
  readonly as: CodedPage['coding'] | null;
}

/** P is what a page is on its way, F what a file is: only their weights are asked for here. */
export interface BindWork<P, F> {
  readonly pages: number;
  /** Renders and codes one page; called again with a coarser coding where the limit wants it. It may say how much of it is done. */
  readonly code: (page: number, coding: Coding, onProgress: (share: number) => void) => Promise<WeighedPage<P>>;
  /** Makes a file of pages that follow each other. */
  readonly assemble: (
    pages: readonly P[],
    part: { readonly number: number; readonly of: number } | null,
  ) => Promise<{ readonly file: F; readonly bytes: number }>;
  /** 0 to 1; it never goes back, though work may come to be more. */
  readonly onProgress?: (share: number) => void;
}

/** What the file needs beside its pages, and beside each of them: roughly, until the first file is made. Each ink is a picture of its own. */
const FILE_BYTES = 4900;
const besidePage = ({ as }: { readonly as: CodedPage['coding'] | null }): number => (as === 'layers' ? 2530 : 730);
/** What estimates of a page's size may be wrong by, together, as a share of the limit. */
const ROOM = 0.015;
/** A file that fills less of its limit than this is made sharper again. */
const FILLED = 0.92;
/** Rounds of coding for a limit, at most. */
const MOST_ROUNDS = 6;

/** The share of all work that is coding; the rest is making the file. */
const CODING_SHARE = 0.96;

/** Codes pages, and says how much of the work is done: it never goes back, though work may come to be more. */
function codeWithProgress<P, F>({ code, onProgress }: BindWork<P, F>) {
  let done = 0;
  let shown = 0;
  /** How much is done of each page that is under way. */
  const underWay = new Map<number, number>();
  const show = (expected: number): void => {
    const sum = [...underWay.values()].reduce((all, share) => all + share, done);
    shown = Math.max(shown, (CODING_SHARE * sum) / expected);
    onProgress?.(shown);
  };
  return {
    /** Codes one page, which with those already done and others asked for at once makes up `of` codings. */
    async page(page: number, coding: Coding, of: number): Promise<WeighedPage<P>> {
      const result = await code(page, coding, (share) => {
        underWay.set(page, share);
        show(of);
      });
      underWay.delete(page);
      done++;
      show(of);
      return result;
    },
    done: () => done,
  };
}

/** A page with all the codings that were made of it, by how much of it was given up. */
interface TriedPage<P> extends SizedPage {
  readonly made: Map<number, WeighedPage<P>>;
}

/** The smallest that a page was made giving up no more than this: a coarser coding can be larger (it happens to pages that are nearly empty). */
function madeAt<P>({ made }: TriedPage<P>, givenUp: number): readonly [givenUp: number, page: WeighedPage<P>] {
  return [...made].filter(([g]) => g <= givenUp).reduce((best, each) => (each[1].bytes < best[1].bytes ? each : best));
}

/**
 * Binds pages as sharp as a limit allows: all in the finest coding first; where that is too much, the largest pages give up some
 * of their sharpness, as little as will do, and none more than half of what it may before all have. The file is never over the limit.
 * @param maxBytes - null for no limit
 * @param inParts - where even the coarsest is too much, make several files of pages that follow each other
 * @throws FotoplanError FILE_TOO_LARGE where they do not fit and may not be parted; facts.parts says how many files it takes, 0 where one page alone is too much; then facts.page says which, from 0
 */
export async function bindWithin<P, F>(
  work: BindWork<P, F>,
  maxBytes: number | null,
  inParts = false,
): Promise<BoundResult<F>> {
  const coder = codeWithProgress(work);
  const pages = await Promise.all(
    Array.from({ length: work.pages }, async (_, page): Promise<TriedPage<P>> => {
      const finest = await coder.page(page, FINEST, work.pages);
      return { as: finest.as, sizes: [{ givenUp: 0, bytes: finest.bytes }], made: new Map([[0, finest]]) };
    }),
  );
  const limit = maxBytes ?? Infinity;
  let overhead = pages.reduce((sum, page) => sum + besidePage(page), FILE_BYTES);
  let room = maxBytes === null ? 0 : ROOM * maxBytes;
  let best: BoundResult<F> | null = null;
  let bestFill = 0;
  const tried = new Set<string>();
  for (let round = 0; round <= MOST_ROUNDS; round++) {
    // the last time nothing is left to estimates
    if (round === MOST_ROUNDS && best !== null) break;
    const plan = planSizes(pages, round === MOST_ROUNDS ? 0 : limit - room - overhead);
    const isRepeated = tried.has(plan.join());
    tried.add(plan.join());
    if (isRepeated && best !== null) break;
    if (isRepeated) room *= 2;
    await codeAs(pages, plan, coder);
    const chosen = pages.map((page, i) => madeAt(page, plan[i]!));
    const sum = chosen.reduce((all, [, { bytes }]) => all + bytes, 0);
    if (sum + overhead > limit && plan.some((givenUp, i) => givenUp < 1 && pages[i]!.as !== null)) continue;
    const { file, bytes } = await work.assemble(
      chosen.map(([, { page }]) => page),
      null,
    );
    overhead = bytes - sum;
    if (bytes > limit) {
      if (best !== null || plan.every((givenUp, i) => givenUp === 1 || pages[i]!.as === null)) break;
      continue;
    }
    if (bytes > bestFill) {
      bestFill = bytes;
      best = {
        files: [{ file, first: 0, last: work.pages - 1 }],
        pageBytes: chosen.map(([, page]) => page.bytes),
        codings: chosen.map(([givenUp]) => Math.ceil(100 * givenUp)),
      };
    }
    if (bytes >= FILLED * limit || chosen.every(([givenUp]) => givenUp === 0)) break;
  }
  if (best !== null) {
    work.onProgress?.(1);
    return best;
  }
  return partsWithin(work, pages, limit, inParts);
}

/** Makes what a plan asks for and was not made yet. */
async function codeAs<P>(
  pages: readonly TriedPage<P>[],
  plan: readonly number[],
  coder: {
    readonly page: (page: number, coding: Coding, of: number) => Promise<WeighedPage<P>>;
    readonly done: () => number;
  },
): Promise<void> {
  const asked = pages.flatMap((page, i) => (page.made.has(plan[i]!) ? [] : [i]));
  const of = coder.done() + asked.length;
  await Promise.all(
    asked.map(async (i) => {
      const { as, made, sizes } = pages[i]!;
      const coarser = await coder.page(i, codingAt(plan[i]!, as!), of);
      made.set(plan[i]!, coarser);
      sizes.push({ givenUp: plan[i]!, bytes: coarser.bytes });
      sizes.sort((a, b) => a.givenUp - b.givenUp);
    }),
  );
}

async function partsWithin<P, F>(
  { assemble, onProgress }: BindWork<P, F>,
  tried: readonly TriedPage<P>[],
  maxBytes: number,
  inParts: boolean,
): Promise<BoundResult<F>> {
  const pages = tried.map((page) => madeAt(page, 1));
  const sizes = pages.map(([, { bytes }]) => bytes);
  const needed = pages.map(([, page]) => page.bytes + besidePage(page));
  const parts = splitWithin(needed, maxBytes - FILE_BYTES);
  const limit = readableBytes(maxBytes);
  if (parts === null) {
    const most = needed.indexOf(Math.max(...needed));
    throw new FotoplanError(
      'FILE_TOO_LARGE',
      `Page ${most + 1} alone is too much for ${limit} if it is to stay readable: it needs about ${readableBytes(needed[most]! + FILE_BYTES)}.`,
      { parts: 0, page: most },
    );
  }
  if (!inParts)
    throw new FotoplanError(
      'FILE_TOO_LARGE',
      `${pages.length} pages do not fit into ${limit} and stay readable: they need about ${readableBytes(needed.reduce((sum, bytes) => sum + bytes, FILE_BYTES))}.`,
      { parts: parts.length },
    );
  const files: BoundFilePart<F>[] = [];
  for (const [k, { first, last }] of parts.entries()) {
    const { file, bytes } = await assemble(
      pages.slice(first, last + 1).map(([, { page }]) => page),
      { number: k + 1, of: parts.length },
    );
    if (bytes > maxBytes)
      throw new FotoplanError(
        'FILE_TOO_LARGE',
        `Part ${k + 1} came out larger than ${limit}. Ask for a slightly higher limit.`,
        { parts: 0 },
      );
    files.push({ file, first, last });
  }
  onProgress?.(1);
  return { files, pageBytes: sizes, codings: pages.map(([givenUp]) => Math.ceil(100 * givenUp)) };
}

/** The fewest runs of pages that each stay within a limit; null where one page alone does not. */
export function splitWithin(sizes: readonly number[], limit: number): { first: number; last: number }[] | null {
  const parts: { first: number; last: number }[] = [];
  let sum = Infinity;
  for (const [page, bytes] of sizes.entries()) {
    if (bytes > limit) return null;
    if (sum + bytes > limit) {
      parts.push({ first: page, last: page });
      sum = bytes;
    } else {
      parts[parts.length - 1]!.last = page;
      sum += bytes;
    }
  }
  return parts;
}
