import fc from 'fast-check';
import { FINEST, type CodedPage, type Coding } from '../../imaging/layers/codedPage';
import { bindWithin, splitWithin, type BindWork } from './bindWithin';

const OVERHEAD = 5000;
/** What is left of a page in the coarsest coding of `workOf`. */
const FLOOR = 0.4;

/** Pages that weigh what they are told to, and less by as much as their coding has fewer dots. */
function workOf(
  sizes: readonly number[],
  { fixed = [], as = 'layers' }: { readonly fixed?: readonly number[]; readonly as?: CodedPage['coding'] } = {},
): BindWork<number, number> & { readonly calls: [number, Coding][] } {
  const calls: [number, Coding][] = [];
  return {
    calls,
    pages: sizes.length,
    code: (page, coding, onProgress) => {
      calls.push([page, coding]);
      onProgress(0.5);
      const bytes = Math.round(sizes[page]! * shareOf(as, coding));
      return Promise.resolve({ page: bytes, bytes, as: fixed.includes(page) ? null : as });
    },
    assemble: (pages) => {
      const bytes = pages.reduce((sum, each) => sum + each, 0) + OVERHEAD;
      return Promise.resolve({ file: bytes, bytes });
    },
  };
}
/** Of a page in the finest coding; FLOOR in the coarsest. */
function shareOf(as: CodedPage['coding'], { dpi, softEdges, quality, twoLevelDpi }: Coding): number {
  if (as === 'jpeg') return FLOOR + ((1 - FLOOR) * (quality - 0.34)) / (FINEST.quality - 0.34);
  if (as === 'jbig2') return Math.min(1, FLOOR + ((1 - FLOOR) * (twoLevelDpi - 150)) / 158);
  return softEdges ? dpi / FINEST.dpi : FLOOR + (0.3 * (dpi - 150)) / 100;
}

describe('bindWithin', () => {
  it('leaves everything sharp where there is no limit, or room enough', async () => {
    expect((await bindWithin(workOf([90_000, 40_000]), null)).codings).toEqual([0, 0]);
    expect((await bindWithin(workOf([90_000, 40_000]), 200_000)).codings).toEqual([0, 0]);
  });

  it('takes from the largest pages first, and from none more than half before all have given half', async () => {
    const { codings } = await bindWithin(workOf([400_000, 20_000, 90_000]), 450_000);
    expect(codings[0]).toBeGreaterThan(0);
    expect(codings.slice(1)).toEqual([0, 0]);
    const tight = await bindWithin(workOf([400_000, 20_000, 90_000]), 330_000);
    expect(Math.max(...tight.codings)).toBeGreaterThan(50);
    expect(Math.min(...tight.codings)).toBeGreaterThanOrEqual(50);
  });

  it.each(['layers', 'jpeg', 'jbig2'] as const)(
    'gives up no more of a page in %s than its limit asks for',
    async (as) => {
      const whole = await bindWithin(workOf([140_000], { as }), null);
      const all = whole.files[0]!.file;
      for (const share of [0.998, 0.9, 0.8, 0.68, 0.6, 0.5]) {
        const { files, codings } = await bindWithin(workOf([140_000], { as }), Math.round(all * share));
        expect(files[0]!.file).toBeLessThanOrEqual(all * share);
        expect(files[0]!.file).toBeGreaterThan(0.9 * all * share);
        expect(codings[0]).toBeGreaterThan(0);
      }
    },
  );

  it('tells of each page the coding that is in the file, also where a coarser one came out larger', async () => {
    const work = workOf([400_000, 390_000]);
    const { code } = work;
    const odd: typeof work = {
      ...work,
      code: async (page, coding, onProgress) => {
        const made = await code(page, coding, onProgress);
        return page === 1 && coding !== FINEST ? { ...made, page: 395_000, bytes: 395_000 } : made;
      },
    };
    const { codings, pageBytes } = await bindWithin(odd, 600_000);
    expect(pageBytes[0]).toBeLessThan(210_000);
    expect(pageBytes[1]).toBe(390_000);
    expect(codings).toEqual([expect.any(Number), 0]);
  });

  it('is never over the limit, and fills it, whatever the pages weigh', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.integer({ min: 500, max: 500_000 }), { minLength: 1, maxLength: 20 }),
        fc.integer({ min: 20_000, max: 2_000_000 }),
        async (sizes, limit) => {
          const made = await bindWithin(workOf(sizes), limit, true).catch((error: { code: string }) => error.code);
          if (made === 'FILE_TOO_LARGE') return Math.max(...sizes) * FLOOR > limit - 10_000;
          if (typeof made === 'string') return false;
          const next = made.files.map(({ first, last }) => [first, last]);
          const [whole] = made.files;
          const full = made.files.length > 1 || made.codings.every((g) => g === 0) || whole!.file >= 0.9 * limit;
          return (
            full &&
            made.files.every(({ file }) => file <= limit) &&
            next[0]![0] === 0 &&
            next.at(-1)![1] === sizes.length - 1 &&
            next.every(([first], i) => i === 0 || first === next[i - 1]![1]! + 1)
          );
        },
      ),
      // The codings of the first fill it once they are put together anew.
      { numRuns: 120, examples: [[[233289, 390638, 489424, 307947], 761033]] },
    );
  });

  it('says how many parts it would take rather than go below the floor', async () => {
    await expect(bindWithin(workOf([130_000, 130_000, 130_000]), 120_000)).rejects.toMatchObject({
      code: 'FILE_TOO_LARGE',
      facts: { parts: 2 },
    });
    expect(
      (await bindWithin(workOf([130_000, 130_000, 130_000]), 120_000, true)).files.map(({ first, last }) => [
        first,
        last,
      ]),
    ).toEqual([
      [0, 1],
      [2, 2],
    ]);
    await expect(bindWithin(workOf([30_000, 2_000_000], { fixed: [1] }), 500_000, true)).rejects.toMatchObject({
      message: expect.stringContaining('Page 2 alone') as string,
    });
  });

  it('shows progress that never goes back and ends at all', async () => {
    const shares: number[] = [];
    await bindWithin({ ...workOf([400_000, 20_000, 90_000]), onProgress: (share) => shares.push(share) }, 250_000);
    expect(shares).toEqual([...shares].sort((a, b) => a - b));
    expect(shares.at(-1)).toBe(1);
  });
});

it('splitWithin makes as few runs as it can', () => {
  expect(splitWithin([4, 4, 4, 9, 1], 9)).toEqual([
    { first: 0, last: 1 },
    { first: 2, last: 2 },
    { first: 3, last: 3 },
    { first: 4, last: 4 },
  ]);
  expect(splitWithin([4, 10], 9)).toBeNull();
});
