import fc from 'fast-check';
import { bindWithin, splitWithin, type BindWork } from './bindWithin';
import { CODINGS } from '../../imaging/layers/codedPage';

const OVERHEAD = 5000;

/** Pages that weigh what they are told to, and half of it with each coarser coding. */
function workOf(
  sizes: readonly number[],
  fixed: readonly number[] = [],
): BindWork<number, number> & { readonly calls: [number, number][] } {
  const calls: [number, number][] = [];
  return {
    calls,
    pages: sizes.length,
    code: (page, coding, onProgress) => {
      calls.push([page, coding]);
      onProgress(0.5);
      const bytes = Math.round(sizes[page]! * 0.5 ** coding);
      return Promise.resolve({ page: bytes, bytes, fixed: fixed.includes(page) });
    },
    assemble: (pages) => {
      const bytes = pages.reduce((sum, each) => sum + each, 0) + OVERHEAD;
      return Promise.resolve({ file: bytes, bytes });
    },
  };
}

describe('bindWithin', () => {
  it('leaves everything sharp where there is no limit, or room enough', async () => {
    expect((await bindWithin(workOf([90_000, 40_000]), null)).codings).toEqual([0, 0]);
    expect((await bindWithin(workOf([90_000, 40_000]), 200_000)).codings).toEqual([0, 0]);
  });

  it('makes the largest pages coarser first, and none twice before all once', async () => {
    const { codings } = await bindWithin(workOf([400_000, 20_000, 90_000]), 400_000);
    expect(codings).toEqual([1, 0, 0]);
    const tight = await bindWithin(workOf([400_000, 20_000, 90_000]), 200_000);
    expect(Math.max(...tight.codings) - Math.min(...tight.codings)).toBeLessThanOrEqual(1);
  });

  it('tells of each page the coding that is in the file, also where a coarser one came out larger', async () => {
    const work = workOf([400_000, 390_000]);
    const { code } = work;
    const odd: typeof work = {
      ...work,
      code: async (page, coding, onProgress) => {
        const made = await code(page, coding, onProgress);
        return page === 1 && coding === 1 ? { ...made, page: 395_000, bytes: 395_000 } : made;
      },
    };
    const { codings, pageBytes } = await bindWithin(odd, 600_000);
    expect(pageBytes).toEqual([200_000, 390_000]);
    expect(codings).toEqual([1, 0]);
  });

  it('is never over the limit, whatever the pages weigh', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.integer({ min: 500, max: 500_000 }), { minLength: 1, maxLength: 20 }),
        fc.integer({ min: 20_000, max: 2_000_000 }),
        async (sizes, limit) => {
          const made = await bindWithin(workOf(sizes), limit, true).catch((error: { code: string }) => error.code);
          if (made === 'FILE_TOO_LARGE') return Math.max(...sizes) * 0.5 ** (CODINGS.length - 1) > limit - 10_000;
          if (typeof made === 'string') return false;
          const next = made.files.map(({ first, last }) => [first, last]);
          return (
            made.files.every(({ file }) => file <= limit) &&
            next[0]![0] === 0 &&
            next.at(-1)![1] === sizes.length - 1 &&
            next.every(([first], i) => i === 0 || first === next[i - 1]![1]! + 1)
          );
        },
      ),
      { numRuns: 120 },
    );
  });

  it('says how many parts it would take rather than go below the floor', async () => {
    await expect(bindWithin(workOf([400_000, 400_000, 400_000]), 120_000)).rejects.toMatchObject({
      code: 'FILE_TOO_LARGE',
      facts: { parts: 2 },
    });
    expect(
      (await bindWithin(workOf([400_000, 400_000, 400_000]), 120_000, true)).files.map(({ first, last }) => [
        first,
        last,
      ]),
    ).toEqual([
      [0, 1],
      [2, 2],
    ]);
    await expect(bindWithin(workOf([30_000, 2_000_000], [1]), 500_000, true)).rejects.toMatchObject({
      message: expect.stringContaining('Page 2 alone') as string,
    });
  });

  it('shows progress that never goes back and ends at all', async () => {
    const shares: number[] = [];
    await bindWithin({ ...workOf([400_000, 20_000, 90_000]), onProgress: (share) => shares.push(share) }, 150_000);
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
