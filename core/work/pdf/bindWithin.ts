import { FotoplanError } from '../../errors';
import { readableBytes } from '../../readableBytes';
import { CODINGS } from '../../imaging/layers/codedPage';

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
  /** For each page, which of CODINGS it got; 0 is the sharpest. */
  readonly codings: readonly number[];
}

export interface WeighedPage<P> {
  readonly page: P;
  /** What it brings to the file. */
  readonly bytes: number;
  /** It comes as it is: no coarser coding will make it smaller. */
  readonly fixed: boolean;
}

/** P is what a page is on its way, F what a file is: only their weights are asked for here. */
export interface BindWork<P, F> {
  readonly pages: number;
  /** Renders and codes one page; called again with a coarser coding where the limit wants it. It may say how much of it is done. */
  readonly code: (page: number, coding: number, onProgress: (share: number) => void) => Promise<WeighedPage<P>>;
  /** Makes a file of pages that follow each other. */
  readonly assemble: (
    pages: readonly P[],
    part: { readonly number: number; readonly of: number } | null,
  ) => Promise<{ readonly file: F; readonly bytes: number }>;
  /** 0 to 1; it never goes back, though work may come to be more. */
  readonly onProgress?: (share: number) => void;
}

/** What the file needs beside its pages, and beside each of them: roughly, and rather too much. */
const FILE_BYTES = 3500;
const PAGE_BYTES = 1800;
/** What a coarser coding saves, before it is tried. */
const HOPED_SAVING = 0.4;

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
    async page(page: number, coding: number, of: number): Promise<WeighedPage<P>> {
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

/**
 * Binds pages as sharp as a limit allows: all in the finest coding first; where that is too much, the largest pages get
 * coarser step by step, none two steps before all have taken one. The file is never over the limit.
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
  /** The coding of each page as it goes into the file; `tried` counts those that came out larger too. */
  const codings = Array.from({ length: work.pages }, () => 0);
  const tried = codings.slice();
  const pages = await Promise.all(codings.map((_, page) => coder.page(page, 0, work.pages)));
  const limit = maxBytes ?? Infinity;
  let spare = 0;
  for (;;) {
    const expected = pages.reduce((sum, { bytes }) => sum + bytes + PAGE_BYTES, FILE_BYTES + spare);
    const next = expected <= limit ? [] : pagesToCoarsen(pages, tried, expected - limit);
    if (next.length === 0) {
      // what a file needs beside its pages was rather too much: only the file itself can say no
      const { file, bytes } = await work.assemble(
        pages.map(({ page }) => page),
        null,
      );
      if (bytes <= limit) {
        work.onProgress?.(1);
        const files = [{ file, first: 0, last: work.pages - 1 }];
        return { files, pageBytes: pages.map((each) => each.bytes), codings };
      }
      if (expected > limit) return partsWithin(work, pages, codings, limit, inParts);
      spare += bytes - expected + PAGE_BYTES;
      continue;
    }
    for (const page of next) tried[page]!++;
    const codingsInAll = coder.done() + next.length;
    await Promise.all(
      next.map(async (page) => {
        const coarser = await coder.page(page, tried[page]!, codingsInAll);
        // a coarser coding that is larger (it happens to pages that are nearly empty) is not used
        if (coarser.bytes < pages[page]!.bytes) {
          pages[page] = coarser;
          codings[page] = tried[page]!;
        }
      }),
    );
  }
}

/** The largest of those that were spared most, as many as should be enough. */
function pagesToCoarsen(pages: readonly WeighedPage<unknown>[], codings: readonly number[], excess: number): number[] {
  const able = codings.flatMap((coding, page) => (coding < CODINGS.length - 1 && !pages[page]!.fixed ? [page] : []));
  const finest = Math.min(...able.map((page) => codings[page]!));
  const chosen: number[] = [];
  let saved = 0;
  for (const page of able
    .filter((each) => codings[each] === finest)
    .sort((a, b) => pages[b]!.bytes - pages[a]!.bytes)) {
    if (saved >= excess) break;
    chosen.push(page);
    saved += HOPED_SAVING * pages[page]!.bytes;
  }
  return chosen;
}

async function partsWithin<P, F>(
  { assemble, onProgress }: BindWork<P, F>,
  pages: readonly WeighedPage<P>[],
  codings: readonly number[],
  maxBytes: number,
  inParts: boolean,
): Promise<BoundResult<F>> {
  const sizes = pages.map(({ bytes }) => bytes);
  const parts = splitWithin(
    sizes.map((bytes) => bytes + PAGE_BYTES),
    maxBytes - FILE_BYTES,
  );
  const limit = readableBytes(maxBytes);
  if (parts === null) {
    const most = sizes.indexOf(Math.max(...sizes));
    throw new FotoplanError(
      'FILE_TOO_LARGE',
      `Page ${most + 1} alone is too much for ${limit} if it is to stay readable: it needs about ${readableBytes(sizes[most]! + PAGE_BYTES + FILE_BYTES)}.`,
      { parts: 0, page: most },
    );
  }
  if (!inParts)
    throw new FotoplanError(
      'FILE_TOO_LARGE',
      `${pages.length} pages do not fit into ${limit} and stay readable: they need about ${readableBytes(sizes.reduce((sum, bytes) => sum + bytes + PAGE_BYTES, FILE_BYTES))}.`,
      { parts: parts.length },
    );
  const files: BoundFilePart<F>[] = [];
  for (const [k, { first, last }] of parts.entries()) {
    const { file, bytes } = await assemble(
      pages.slice(first, last + 1).map(({ page }) => page),
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
  return { files, pageBytes: sizes, codings };
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
