import { act, renderHook } from '@testing-library/react';
import type { HandIn, Page } from '../../../../core/work/hand-in/handIn';
import { MOST_MEND_POINTS } from '../../../../core/imaging/mend/mend';
import { turnRecipe } from '../../../../core/work/recipe/recipe';
import { wholePhotoRecipe } from '../../../../core/work/recipe/plainRecipe';
import { useMendDraft } from './useMendDraft';

const mockDispatch = jest.fn(() => Promise.resolve(true));
jest.mock('../../../engine/useEngine', () => ({ useEngine: () => ({ dispatch: mockDispatch }) }));

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
const handIn = { id: 'hand-in-1' } as HandIn;
const draftOf = (of: Page = page) => renderHook(() => useMendDraft(handIn, of)).result;

describe('the mending brush', () => {
  it('paints in pixels of the original, turned or not, as wide as it is set', () => {
    const upright = draftOf();
    act(() => upright.current.setBrush(0.05));
    act(() => upright.current.paint([{ x: 0.2, y: 0.5 }]));
    expect(upright.current.recipe.mends).toEqual([{ points: [{ x: 200, y: 700 }], radius: 50 }]);
    const turned = draftOf({ ...page, recipe: turnRecipe(page.recipe, 2) });
    act(() => turned.current.paint([{ x: 0.2, y: 0.5 }]));
    expect(turned.current.recipe.mends[0]!.points).toEqual([{ x: 800, y: 700 }]);
    expect(turned.current.toPage({ x: 800, y: 700 }).x).toBeCloseTo(0.2);
  });

  it('goes back and forth step by step; what is offered is taken as one', () => {
    const draft = draftOf();
    const offered = [1, 2, 3].map((n) => ({ points: [{ x: n, y: n }], radius: 9 }));
    act(() => draft.current.paint([{ x: 0.1, y: 0.1 }]));
    act(() => draft.current.add(offered));
    expect(draft.current.recipe.mends).toHaveLength(4);
    act(() => draft.current.undo());
    expect(draft.current.recipe.mends).toHaveLength(1);
    act(() => draft.current.redo());
    act(() => draft.current.clear());
    expect([draft.current.recipe.mends.length, draft.current.canRedo]).toEqual([0, false]);
    act(() => draft.current.undo());
    expect(draft.current.recipe.mends).toHaveLength(4);
  });

  it('keeps a long stroke one stroke, thinned, with its ends', () => {
    const draft = draftOf();
    act(() => draft.current.paint(Array.from({ length: 950 }, (_, i) => ({ x: i / 1000, y: 0.5 }))));
    const { points } = draft.current.recipe.mends[0]!;
    expect(points.length).toBeLessThanOrEqual(MOST_MEND_POINTS);
    expect([points[0]!.x, points.at(-1)!.x]).toEqual([0, 949]);
  });

  it('saves only what was changed', async () => {
    const draft = draftOf();
    act(() => draft.current.start());
    await act(() => draft.current.save());
    expect(mockDispatch).not.toHaveBeenCalled();
    act(() => draft.current.start());
    act(() => draft.current.paint([{ x: 0.5, y: 0.5 }]));
    await act(() => draft.current.save());
    expect(mockDispatch).toHaveBeenCalledWith({
      kind: 'setRecipe',
      handInId: 'hand-in-1',
      pageId: 'page-1',
      from: page.recipe,
      to: expect.objectContaining({ mends: [expect.anything()] }) as object,
      label: { key: 'mending' },
    });
    expect(draft.current.open).toBe(false);
  });
});
