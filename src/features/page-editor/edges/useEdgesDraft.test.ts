import { act, renderHook } from '@testing-library/react';
import type { Quad } from '../../../../core/imaging/geometry/quad';
import { wholePicture } from '../../../../core/imaging/geometry/quad';
import type { Page } from '../../../../core/work/hand-in/handIn';
import { wholePhotoRecipe } from '../../../../core/work/recipe/plainRecipe';
import { useEdgesDraft, type EdgesDraft } from './useEdgesDraft';

const page: Page = {
  id: 'page-1',
  originalId: 'a',
  fileName: 'a.jpg',
  width: 1000,
  height: 1400,
  pdfPage: null,
  takenAtMs: null,
  leftOut: false,
  recipe: wholePhotoRecipe(1000, 1400, 'daylight'),
  removedAtMs: null,
  findings: null,
};
const inner: Quad = [
  { x: 100, y: 100 },
  { x: 900, y: 120 },
  { x: 880, y: 1300 },
  { x: 120, y: 1280 },
];

const open = (): { current: EdgesDraft } => {
  const { result } = renderHook(() => useEdgesDraft(page));
  act(() => result.current.open({ ...result.current, corners: inner }));
  return result;
};

describe('an outline set by hand', () => {
  it('moves the one corner and no other, measured from where the drag began, and stays inside the photo', () => {
    const draft = open();
    act(() => draft.current.begin());
    act(() => draft.current.moveCorner(1, { x: 10, y: 10 }, null));
    act(() => draft.current.moveCorner(1, { x: 30, y: -40 }, null));
    expect(draft.current.corners[1]).toEqual({ x: 930, y: 80 });
    expect([0, 2, 3].map((i) => draft.current.corners[i])).toEqual([0, 2, 3].map((i) => inner[i]));
    act(() => draft.current.moveCorner(1, { x: 500, y: -400 }, null));
    expect(draft.current.corners[1]).toEqual({ x: 1000, y: 0 });
  });

  it('moves a side parallel to itself while its neighbours follow along their own lines', () => {
    const draft = open();
    act(() => draft.current.begin());
    act(() => draft.current.moveSide(0, 50, null));
    const [tl, tr, br, bl] = draft.current.corners;
    expect([br, bl]).toEqual([inner[2], inner[3]]);
    expect((tr.y - tl.y) / (tr.x - tl.x)).toBeCloseTo(20 / 800, 6);
    const along = (p: typeof tl, a: typeof tl, b: typeof tl): number =>
      (b.x - a.x) * (p.y - a.y) - (b.y - a.y) * (p.x - a.x);
    expect(along(tl, inner[3], inner[0])).toBeCloseTo(0, 6);
    expect(along(tr, inner[2], inner[1])).toBeCloseTo(0, 6);
  });

  it('sticks to a found corner or line within reach, unless it is held off', () => {
    const target: Quad = [
      { x: 90, y: 92 },
      { x: 905, y: 115 },
      { x: 890, y: 1310 },
      { x: 110, y: 1290 },
    ];
    const snap = { targets: [target], reachPx: 12 };
    const draft = open();
    act(() => draft.current.begin());
    act(() => draft.current.moveCorner(0, { x: -6, y: -6 }, snap));
    expect(draft.current.corners[0]).toEqual(target[0]);
    act(() => draft.current.moveCorner(0, { x: -6, y: -6 }, null));
    expect(draft.current.corners[0]).toEqual({ x: 94, y: 94 });
    act(() => draft.current.undo());
    act(() => draft.current.begin());
    act(() => draft.current.moveSide(1, 4, snap));
    const [, tr, br] = draft.current.corners;
    for (const p of [tr, br])
      expect(
        Math.abs(
          (target[2].x - target[1].x) * (p.y - target[1].y) - (target[2].y - target[1].y) * (p.x - target[1].x),
        ) / 1195,
      ).toBeLessThan(0.01);
  });

  it('bends a side about its middle and no other side', () => {
    const draft = open();
    act(() => draft.current.begin());
    act(() => draft.current.bendSide(2, 0.04));
    expect(draft.current.bends[2]).toEqual([0.03, 0.04, 0.03]);
    expect(draft.current.bends[0]).toEqual([0, 0, 0]);
    act(() => draft.current.bendSide(2, 0.9));
    expect(draft.current.problem).toBe('tooBent');
  });

  it('takes back a whole drag as one step, and brings it again', () => {
    const draft = open();
    for (const dx of [20, 40]) {
      act(() => draft.current.begin());
      for (let k = 1; k <= 5; k++) act(() => draft.current.moveCorner(0, { x: (dx * k) / 5, y: 0 }, null));
    }
    expect(draft.current.corners[0].x).toBe(160);
    act(() => draft.current.undo());
    expect(draft.current.corners[0].x).toBe(120);
    act(() => draft.current.undo());
    expect([draft.current.corners[0].x, draft.current.canUndo]).toEqual([100, false]);
    act(() => draft.current.redo());
    act(() => draft.current.redo());
    expect([draft.current.corners[0].x, draft.current.canRedo]).toEqual([160, false]);
  });

  it('leaves nothing to undo where nothing was moved', () => {
    const draft = open();
    act(() => draft.current.begin());
    expect(draft.current.canUndo).toBe(false);
  });

  it('cannot be crossed: the corner stays where it was, with the reason, until the next good move', () => {
    const draft = open();
    act(() => draft.current.begin());
    act(() => draft.current.moveCorner(0, { x: 890, y: 1290 }, null));
    expect(draft.current.corners[0]).toEqual(inner[0]);
    expect(draft.current.problem).toMatch(/cross/i);
    act(() => draft.current.moveCorner(0, { x: 5, y: 6 }, null));
    expect(draft.current.problem).toBeNull();
    act(() => draft.current.moveSide(0, -1190, null));
    expect(draft.current.problem).not.toBeNull();
  });

  it('takes another outline whole, straightening what was bent, as one step', () => {
    const draft = open();
    act(() => draft.current.begin());
    act(() => draft.current.bendSide(0, 0.05));
    act(() => draft.current.replace({ corners: wholePicture(1000, 1400) }));
    expect(draft.current.corners).toEqual(page.recipe.outline.corners);
    expect(draft.current.bends.flat().every((share) => share === 0)).toBe(true);
    act(() => draft.current.replace({ sheet: 'letter' }));
    expect(draft.current.sheet).toBe('letter');
    act(() => draft.current.undo());
    act(() => draft.current.undo());
    expect(draft.current.bends[0][1]).toBeCloseTo(0.05, 9);
  });
});
