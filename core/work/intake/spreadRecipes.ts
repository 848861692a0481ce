import type { DetectedOutline } from '../../imaging/detect/detectOutline';
import { followSides } from '../../imaging/detect/followSides';
import type { BentQuad } from '../../imaging/detect/sideSearch';
import { cutAtFold, squaredToFold, type Half } from '../../imaging/flatten/cutAtFold';
import { findFold } from '../../imaging/flatten/findFold';
import { ALL_STRAIGHT } from '../../imaging/geometry/bentOutline';
import { lerpPoint, type Point } from '../../imaging/geometry/point';
import { isWholePicture, turnQuad, type Quad } from '../../imaging/geometry/quad';
import type { PixelImage } from '../../imaging/raster/pixelImage';
import { CHECK_TURN_BELOW, outlineProblem, type Recipe } from '../recipe/recipe';
import { recipeFromOutline, type StartOptions } from './recipeFromOutline';

/**
 * The recipes of both pages of an open book, in the order in which they are read.
 * Method: the spread is cut at its fold, the sides of either page are followed once more, for the kinks at the fold, and each page
 * is laid flat for itself. The pages of one book are read the same way, so what is sure of one holds for the other.
 * @param outline - of both pages together; the whole photo where they fill it
 */
export function spreadRecipes(
  photo: PixelImage,
  outline: DetectedOutline,
  of: StartOptions,
): readonly [Recipe, Recipe] {
  const fold = findFold(photo, outline);
  const halves = cutAtFold(outline, fold);
  const fillsPhoto = isWholePicture(outline.quad, photo.width, photo.height);
  const confidence = outline.confidence * fold.confidence;
  const options = { ...of, kind: 'sheet' } as const;
  const [first, second] = (
    fillsPhoto
      ? halves.map((half) => {
          const page = { quad: squaredToFold(half), bends: ALL_STRAIGHT, confidence };
          return recipeFromOutline(photo, page, options, half.foldSide);
        })
      : onTheirEdges(photo, halves).map((page) => recipeFromOutline(photo, { ...page, confidence }, options))
  ) as [Recipe, Recipe];
  return inOrder(readLike(first, second), readLike(second, first));
}

/** The halves with their sides on the edges seen; a half as it was cut where that would make no page of it. */
function onTheirEdges(photo: PixelImage, halves: readonly Half[]): readonly BentQuad[] {
  const followed = followSides(
    photo,
    halves.map(({ quad, bends, foldSide }) => ({ quad, bends, fixed: [0, 1, 2, 3].map((side) => side === foldSide) })),
  );
  return followed.map((page, k) =>
    outlineProblem(page.quad, photo.width, photo.height, page.bends) === null ? page : halves[k]!,
  );
}

const surenessOf = ({ uprightConfidence }: Recipe): number => uprightConfidence ?? 0;

/** A page turned like the other page of its book where that is sure and its own turn is less so. */
const readLike = (page: Recipe, other: Recipe): Recipe =>
  surenessOf(other) >= CHECK_TURN_BELOW && surenessOf(other) > surenessOf(page)
    ? { ...page, quarterTurns: other.quarterTurns, uprightConfidence: other.uprightConfidence }
    : page;

/** Two pages left to right, or top to bottom where they lie above each other, as they are read. */
function inOrder(one: Recipe, other: Recipe): readonly [Recipe, Recipe] {
  const [tl, tr, , bl] = turnQuad(one.outline.corners, one.quarterTurns);
  const [from, to] = [middleOf(one.outline.corners), middleOf(other.outline.corners)];
  const [right, down] = [tr, bl].map((end) => (to.x - from.x) * (end.x - tl.x) + (to.y - from.y) * (end.y - tl.y)) as [
    number,
    number,
  ];
  const onward = Math.abs(right) > Math.abs(down) ? right : down;
  return onward < 0 ? [other, one] : [one, other];
}

const middleOf = ([tl, , br]: Quad): Point => lerpPoint(tl, br, 0.5);
