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
  /** Renders and codes one page; called again with a coarser coding where the limit wants it. It may tell how much of it is done. */
  readonly code: (page: number, coding: number, tell: (share: number) => void) => Promise<WeighedPage<P>>;
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

/**
 * Binds pages as sharp as a limit allows: all in the finest coding first; where that is too much, the largest pages get
 * coarser step by step, none two steps before all have taken one. The file is never over the limit.
 * @param maxBytes - null for no limit
 * @param inParts - where even the coarsest is too much, make several files of pages that follow each other
 * @throws FotoplanError FILE_TOO_LARGE where they do not fit and may not be parted; facts.parts says how many files it takes, 0 where one page alone is too much
 */
export async function bindWithin<P, F>(
  work: BindWork<P, F>,
  maxBytes: number | null,
  inParts = false,
): Promise<BoundResult<F>> {
  const { pages: count, code, assemble } = work;
  let done = 0;
  let shown = 0;
  /** How much is done of each page that is under way. */
  const underWay = new Map<number, number>();
  const show = (expected: number): void => {
    shown = Math.max(shown, (0.96 * [...underWay.values()].reduce((sum, share) => sum + share, done)) / expected);
    work.onProgress?.(shown);
  };
  const coded = async (page: number, coding: number, expected: number): Promise<WeighedPage<P>> => {
    const result = await code(page, coding, (share) => {
      underWay.set(page, share);
      show(expected);
    });
    underWay.delete(page);
    done++;
    show(expected);
    return result;
  };
  /** The coding of each page as it goes into the file; `tried` counts those that came out larger too. */
  const codings = Array.from({ length: count }, () => 0);
  const tried = codings.slice();
  const pages = await Promise.all(codings.map((_, page) => coded(page, 0, count)));
  let spare = 0;
  for (;;) {
    const total = pages.reduce((sum, { bytes }) => sum + bytes + PAGE_BYTES, FILE_BYTES + spare);
    if (maxBytes === null || total <= maxBytes) {
      const { file, bytes } = await assemble(
        pages.map(({ page }) => page),
        null,
      );
      if (maxBytes === null || bytes <= maxBytes) {
        work.onProgress?.(1);
        return { files: [{ file, first: 0, last: count - 1 }], pageBytes: pages.map((each) => each.bytes), codings };
      }
      spare += bytes - total + PAGE_BYTES;
      continue;
    }
    const next = pagesToCoarsen(pages, tried, total - maxBytes);
    if (next.length === 0) {
      // what a file needs beside its pages was rather too much: only the file itself can say no
      const { file, bytes } = await assemble(
        pages.map(({ page }) => page),
        null,
      );
      if (bytes > maxBytes) return partsWithin(work, pages, codings, maxBytes, inParts);
      work.onProgress?.(1);
      return { files: [{ file, first: 0, last: count - 1 }], pageBytes: pages.map((each) => each.bytes), codings };
    }
    for (const page of next) tried[page]!++;
    const expected = done + next.length;
    await Promise.all(
      next.map(async (page) => {
        const coarser = await coded(page, tried[page]!, expected);
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
      `Page ${most + 1} alone is too much for ${limit} if it is to stay readable. Choose Press for it, or ask for a higher limit.`,
      { parts: 0 },
    );
  }
  if (!inParts)
    throw new FotoplanError(
      'FILE_TOO_LARGE',
      `${pages.length} pages do not fit into ${limit} and stay readable. Choose Press for pages without colour, leave pages out, or bind ${parts.length} numbered parts.`,
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
        `Part ${k + 1} came out larger than ${limit}. Choose Press for its pages.`,
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
