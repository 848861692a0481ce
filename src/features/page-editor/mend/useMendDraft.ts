import { useMemo, useState } from 'react';
import { photoToPage, pageToPhoto } from '../../../../core/imaging/flatten/placeOnPage';
import { distance, type Point } from '../../../../core/imaging/geometry/point';
import type { HandIn, Page } from '../../../../core/work/hand-in/handIn';
import { MOST_MEND_POINTS, MOST_MENDS, type Mend } from '../../../../core/imaging/mend/mend';
import { shapeOf } from '../../../../core/work/render/renderPage';
import type { Recipe } from '../../../../core/work/recipe/recipe';
import { thinned } from '../../../zoom/thinned';
import { useSteps } from '../useSteps';
import { useEngine } from '../../../engine/useEngine';

export interface MendDraft {
  readonly open: boolean;
  readonly recipe: Recipe;
  /** Half the brush, as a share of the page's width. */
  readonly brush: number;
  readonly canUndo: boolean;
  readonly canRedo: boolean;
  /** No more strokes fit on this page. */
  readonly full: boolean;
  readonly start: () => void;
  readonly leave: () => void;
  readonly save: () => Promise<void>;
  readonly setBrush: (share: number) => void;
  /** One stroke through places of the page, in shares of its width and height. */
  readonly paint: (places: readonly Point[]) => void;
  /** One step that takes in all of these, px of the original. */
  readonly add: (mends: readonly Mend[]) => void;
  readonly clear: () => void;
  readonly undo: () => void;
  readonly redo: () => void;
  /** Where a place of the original is seen on the page, in shares. */
  readonly toPage: (place: Point) => Point;
}

const BRUSH_AT_FIRST = 0.02;
const tenth = (value: number): number => Math.round(value * 10) / 10;

/** What the mending brush has painted while its tool is open on a page. */
export function useMendDraft(handIn: HandIn, page: Page): MendDraft {
  const { dispatch } = useEngine();
  const [open, setOpen] = useState(false);
  const [brush, setBrush] = useState(BRUSH_AT_FIRST);
  const steps = useSteps<readonly Mend[]>(page.recipe.mends);
  const { present } = steps;
  const { toPhoto, toPage } = useMemo(() => {
    const shape = shapeOf(page, page.recipe);
    return { toPhoto: pageToPhoto(shape), toPage: photoToPage(shape) };
  }, [page]);
  const set = (mends: readonly Mend[]): void => {
    if (mends.length <= MOST_MENDS) steps.set(mends);
  };
  return {
    open,
    recipe: { ...page.recipe, mends: present },
    brush,
    canUndo: steps.canUndo,
    canRedo: steps.canRedo,
    full: present.length >= MOST_MENDS,
    start: () => {
      steps.begin(page.recipe.mends);
      setOpen(true);
    },
    leave: () => setOpen(false),
    save: async () => {
      if (steps.canUndo)
        await dispatch({
          kind: 'setRecipe',
          handInId: handIn.id,
          pageId: page.id,
          from: page.recipe,
          to: { ...page.recipe, mends: present },
          label: { key: 'mending' },
        });
      setOpen(false);
    },
    setBrush,
    paint: (places) => {
      const spread = thinned(places, MOST_MEND_POINTS);
      const first = spread[0]!;
      const radius = distance(toPhoto(first.x, first.y), toPhoto(first.x + brush, first.y));
      const points = spread.map(({ x, y }) => toPhoto(x, y)).map(({ x, y }) => ({ x: tenth(x), y: tenth(y) }));
      set([...present, { points, radius: Math.max(1, tenth(radius)) }]);
    },
    add: (mends) => set([...present, ...mends]),
    clear: () => set([]),
    undo: steps.undo,
    redo: steps.redo,
    toPage,
  };
}
