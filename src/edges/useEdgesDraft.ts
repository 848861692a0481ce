import { useState } from 'react';
import type { Page } from '../../core/handIn/handIn';
import type { Point } from '../../core/geometry/point';
import { mapQuad, wholePicture, type Quad } from '../../core/geometry/quad';
import { outlineProblem } from '../../core/recipe/recipe';

export interface EdgesDraft {
  readonly corners: Quad;
  /** Why the last move was not made, as a sentence, or null. */
  readonly problem: string | null;
  readonly moveCorner: (index: number, to: Point) => void;
  readonly replace: (corners: Quad) => void;
  readonly takeWholePhoto: () => void;
}

/** An outline being set by hand, in pixels of the original. A move that would make it unusable is not made. */
export function useEdgesDraft(page: Page): EdgesDraft {
  const [draft, setDraft] = useState<{ corners: Quad; problem: string | null }>({ corners: page.recipe.outline.corners, problem: null });
  const replace = (corners: Quad): void => setDraft({ corners, problem: null });
  return {
    ...draft,
    moveCorner: (index, to) =>
      setDraft(({ corners }) => {
        const moved = mapQuad(corners, (p, i) => (i === index ? clampToPhoto(to, page) : p));
        const problem = outlineProblem(moved, page.width, page.height);
        return { corners: problem === null ? moved : corners, problem };
      }),
    replace,
    takeWholePhoto: () => replace(wholePicture(page.width, page.height)),
  };
}

/** Hands set corners within the photo: what lies outside it cannot be seen. */
const clampToPhoto = ({ x, y }: Point, { width, height }: Page): Point => ({ x: Math.min(width, Math.max(0, x)), y: Math.min(height, Math.max(0, y)) });
