import { act, renderHook } from '@testing-library/react-native';
import type { Page } from '../../core/handIn/handIn';
import { wholePhotoRecipe } from '../../core/recipe/startRecipe';
import { useEdgesDraft } from './useEdgesDraft';

const page: Page = { id: 'page-1', originalId: 'a', fileName: 'a.jpg', width: 1000, height: 1400, pdfPage: null, recipe: wholePhotoRecipe(1000, 1400, 'daylight'), removed: false };

describe('an outline set by hand', () => {
  it('moves the one corner and no other, and stays inside the photo', () => {
    const { result } = renderHook(() => useEdgesDraft(page));
    act(() => result.current.moveCorner(1, { x: 1200, y: -30 }));
    expect(result.current.corners).toEqual(page.recipe.outline.corners);
    act(() => result.current.moveCorner(1, { x: 900, y: 40 }));
    expect(result.current.corners[1]).toEqual({ x: 900, y: 40 });
    expect([0, 2, 3].map((i) => result.current.corners[i])).toEqual([0, 2, 3].map((i) => page.recipe.outline.corners[i]));
  });

  it('cannot be crossed: the corner stays where it was, with the reason, until the next good move', () => {
    const { result } = renderHook(() => useEdgesDraft(page));
    act(() => result.current.moveCorner(0, { x: 990, y: 1390 }));
    expect(result.current.corners[0]).toEqual({ x: 0, y: 0 });
    expect(result.current.problem).toContain('cross');
    act(() => result.current.moveCorner(0, { x: 50, y: 60 }));
    expect(result.current.problem).toBeNull();
    act(() => result.current.takeWholePhoto());
    expect(result.current.corners).toEqual(page.recipe.outline.corners);
  });
});
