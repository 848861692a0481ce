import fc from 'fast-check';
import { wholePhotoRecipe } from '../recipe/plainRecipe';
import { boundPages, shownPages, type HandIn } from './handIn';
import { applyOperation, setDown, type Operation } from './operation';

const stamp = (n: number): { id: string; handInId: string; atMs: number } => ({
  id: `operation-${n}`,
  handInId: 'hand-in-1',
  atMs: n,
});
const create: Operation = { ...stamp(0), kind: 'createHandIn', title: 'Set 4', paper: 'auto' };
const add = (n: number): Operation => ({
  ...stamp(n),
  kind: 'addPage',
  pageId: `page-${n}`,
  originalId: 'a'.repeat(64),
  fileName: `${n}.jpg`,
  width: 100,
  height: 140,
  recipe: wholePhotoRecipe(100, 140, 'daylight'),
});
const run = (operations: readonly Operation[]): HandIn => operations.reduce<HandIn | null>(applyOperation, null)!;
const ids = (handIn: HandIn): string[] => boundPages(handIn).map((page) => page.id);

describe('operations', () => {
  it('build a hand-in in order', () => {
    const handIn = run([
      create,
      add(1),
      add(2),
      add(3),
      { ...stamp(4), kind: 'movePage', pageId: 'page-3', afterPageId: null },
    ]);
    expect(ids(handIn)).toEqual(['page-3', 'page-1', 'page-2']);
    expect(handIn.changedAtMs).toBe(4);
  });

  it('take a page out and put it back where it was', () => {
    const built = run([create, add(1), add(2), add(3)]);
    const without = applyOperation(built, { ...stamp(5), kind: 'removePage', pageId: 'page-2' })!;
    expect(ids(without)).toEqual(['page-1', 'page-3']);
    expect(ids(applyOperation(without, { ...stamp(6), kind: 'restorePage', pageId: 'page-2' })!)).toEqual([
      'page-1',
      'page-2',
      'page-3',
    ]);
  });

  it('put a page behind another, or at the end where that one is gone', () => {
    const built = run([create, add(1), add(2)]);
    const behind = (afterPageId: string): Operation => ({ ...add(3), kind: 'addPage', afterPageId }) as Operation;
    expect(ids(applyOperation(built, behind('page-1'))!)).toEqual(['page-1', 'page-3', 'page-2']);
    expect(ids(applyOperation(built, behind('gone-page'))!)).toEqual(['page-1', 'page-2', 'page-3']);
  });

  it('put another shot in a page’s place, and the old one back', () => {
    const built = run([create, add(1), add(2), add(3)]);
    const shot = {
      originalId: 'b'.repeat(64),
      fileName: 'again.jpg',
      width: 200,
      height: 280,
      recipe: wholePhotoRecipe(200, 280, 'asshot'),
    };
    const again = applyOperation(built, { ...stamp(9), kind: 'replaceOriginal', pageId: 'page-2', ...shot })!;
    expect(ids(again)).toEqual(['page-1', 'page-2', 'page-3']);
    expect(again.pages[1]).toEqual({
      id: 'page-2',
      pdfPage: null,
      takenAtMs: null,
      leftOut: false,
      removedAtMs: null,
      findings: null,
      ...shot,
    });
    const { originalId, fileName, width, height, recipe } = built.pages[1]!;
    expect(
      applyOperation(again, {
        ...stamp(10),
        kind: 'replaceOriginal',
        pageId: 'page-2',
        originalId,
        fileName,
        width,
        height,
        recipe,
      })!.pages,
    ).toEqual(built.pages);
  });

  it('change nothing when they come too late or twice', () => {
    const built = run([create, add(1)]);
    expect(applyOperation(built, { ...stamp(7), kind: 'removePage', pageId: 'gone-page' })).toBe(built);
    expect(
      applyOperation(built, { ...stamp(8), kind: 'movePage', pageId: 'page-1', afterPageId: 'gone-page' })?.pages,
    ).toEqual(built.pages);
    expect(applyOperation(built, add(1))).toBe(built);
    expect(applyOperation(built, create)).toBe(built);
    expect(applyOperation(null, add(1))).toBeNull();
  });

  it('never lose or double a page, whatever is moved where', () => {
    const page = fc.integer({ min: 1, max: 6 });
    fc.assert(
      fc.property(fc.array(fc.tuple(page, fc.option(page)), { maxLength: 30 }), (moves) => {
        const operations = moves.map(([from, after], i): Operation => ({
          ...stamp(100 + i),
          kind: 'movePage',
          pageId: `page-${from}`,
          afterPageId: after === null ? null : `page-${after}`,
        }));
        const handIn = run([create, ...[1, 2, 3, 4, 5, 6].map(add), ...operations]);
        expect([...ids(handIn)].sort()).toEqual(['page-1', 'page-2', 'page-3', 'page-4', 'page-5', 'page-6']);
      }),
    );
  });

  const three = run([create, add(1), add(2), add(3)]);

  it('lay all pages in a new order; what the order does not name stays behind its neighbour', () => {
    const order = (pageIds: string[]) => ids(applyOperation(three, { ...stamp(9), kind: 'orderPages', pageIds })!);
    expect(order(['page-3', 'page-1', 'page-2'])).toEqual(['page-3', 'page-1', 'page-2']);
    expect(order(['page-3', 'page-1'])).toEqual(['page-3', 'page-1', 'page-2']);
    expect(order(['page-2', 'page-2', 'gone', 'page-1'])).toEqual(['page-2', 'page-3', 'page-1']);
  });

  it('leave a page out of the file and take it in again', () => {
    const out = applyOperation(three, { ...stamp(9), kind: 'leaveOut', pageId: 'page-2', leftOut: true })!;
    expect(boundPages(out).map(({ id }) => id)).toEqual(['page-1', 'page-3']);
    expect(shownPages(out)).toHaveLength(3);
    expect(applyOperation(out, { ...stamp(10), kind: 'leaveOut', pageId: 'page-2', leftOut: false })!.pages).toEqual(
      three.pages,
    );
  });
});

describe('laying pages down', () => {
  const all = ['a', 'b', 'c', 'd', 'e'];
  it.each([
    [['b'], 'b', 'd', 'acdbe'],
    [['d'], 'd', 'b', 'adbce'],
    [['a', 'c'], 'a', 'd', 'bdace'],
    [['b', 'e'], 'e', 'a', 'beacd'],
    [['b', 'c'], 'b', 'c', 'abcde'],
  ])('%j, lifted by %s, over %s: %s', (moving, lifted, over, expected) => {
    expect(setDown(all, moving, lifted, over).join('')).toBe(expected);
  });
});
