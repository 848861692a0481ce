import { useState } from 'react';
import type { Sheet } from '../../../core/imaging/geometry/standardSheets';
import { ALL_STRAIGHT, mostBent } from '../../../core/imaging/geometry/bentOutline';
import { straightRectangle } from '../../../core/imaging/geometry/editQuad';
import { mapQuad, wholePicture, type Quad } from '../../../core/imaging/geometry/quad';
import { shownPages, type HandIn, type Page } from '../../../core/work/hand-in/handIn';
import { isPending, outlineRecipe, type Recipe } from '../../../core/work/recipe/recipe';
import { useWide } from '../../ui/breakpoints';
import { draftOf, useEdgesDraft, type DraftOutline, type EdgesDraft } from './edges/useEdgesDraft';
import { usePageGrid } from './edges/usePageGrid';
import { useLatestPicture } from '../../page-picture/useLatestPicture';
import { useEngine } from '../../engine/useEngine';
import type { GridResult, OutlinesResult } from '../../jobs/jobProtocol';

export interface PageEditing {
  readonly edges: EdgesDraft;
  readonly editingEdges: boolean;
  readonly finding: boolean;
  /** Handles in the middle of sides bend them, instead of moving them. */
  readonly bending: boolean;
  /** Handles stick to found edges. */
  readonly snapping: boolean;
  /** Outlines found in the photo, likely or not, for handles to stick to. */
  readonly targets: readonly Quad[];
  /** The page laid flat by the edges as they are; beside the photo on a wide screen, over it where it is looked at on a phone. */
  readonly flat: ImageBitmap | null;
  readonly lookingFlat: boolean;
  /** How the page lies by the edges as they are, px of the photo; null while it is not shown. */
  readonly grid: GridResult | null;
  readonly showingGrid: boolean;
  readonly openEdges: () => void;
  readonly leaveEdges: () => void;
  readonly saveEdges: () => Promise<void>;
  readonly findEdges: () => Promise<void>;
  readonly takeWholePhoto: () => void;
  readonly straightenOnly: () => void;
  /** Lays the page flat by its corners alone; null where nothing bends it. */
  readonly straightenSides: (() => void) | null;
  /** Null where no page before this one has an outline. */
  readonly takePageBefore: (() => void) | null;
  readonly toggleBending: () => void;
  readonly toggleSnapping: () => void;
  readonly toggleFlat: () => void;
  readonly toggleGrid: () => void;
  readonly chooseSheet: (sheet: Sheet) => void;
}

const FLAT_LONG_SIDE_PX = 560;
const OUTLINES_FROM_PX = 1800;
const HAND = { priority: 'hand' } as const;

/** What was found, as the edges tool takes it. */
const laidBy = ({ quad, bends, lines }: NonNullable<OutlinesResult['found']>): Partial<DraftOutline> => ({
  corners: quad,
  bends,
  lines,
});

/** What the edges tool holds while it is open on a page. */
export function usePageEditing(handIn: HandIn, page: Page): PageEditing {
  const { dispatch, scheduler, small } = useEngine();
  const wide = useWide();
  const edges = useEdgesDraft(page);
  const [editingEdges, setEditingEdges] = useState(false);
  const [finding, setFinding] = useState(false);
  const [bending, setBending] = useState(false);
  const [snapping, setSnapping] = useState(true);
  const [lookingFlat, setLookingFlat] = useState(false);
  const [showingGrid, setShowingGrid] = useState(false);
  const [targets, setTargets] = useState<readonly Quad[]>([]);
  const draftRecipe: Recipe = { ...outlineRecipe(page.recipe, edges), sheet: edges.sheet };
  const flat = useLatestPicture(page, draftRecipe, FLAT_LONG_SIDE_PX, editingEdges && (wide || lookingFlat));
  const grid = usePageGrid(page, draftRecipe, editingEdges && showingGrid);
  const pages = shownPages(handIn);
  const before = pages
    .slice(
      0,
      Math.max(
        0,
        pages.findIndex(({ id }) => id === page.id),
      ),
    )
    .findLast(({ recipe }) => !isPending(recipe));

  const outlines = async () =>
    scheduler.run({ kind: 'outlines', original: await small.source(page, OUTLINES_FROM_PX, 'hand') }, HAND);
  return {
    edges,
    editingEdges,
    finding,
    bending,
    snapping,
    targets,
    flat,
    lookingFlat: lookingFlat && !wide,
    grid,
    showingGrid,
    openEdges: () => {
      edges.open(draftOf(page));
      setEditingEdges(true);
      // until they are known nothing sticks, which costs nobody anything
      void outlines().then(
        ({ found, targets: others }) => {
          setTargets(others);
          if (isPending(page.recipe) && found !== null) edges.replace(laidBy(found));
        },
        () => undefined,
      );
    },
    leaveEdges: () => setEditingEdges(false),
    saveEdges: async () => {
      await dispatch({
        kind: 'setRecipe',
        handInId: handIn.id,
        pageId: page.id,
        from: page.recipe,
        to: draftRecipe,
        label: { key: 'edges' },
      });
      setEditingEdges(false);
    },
    findEdges: async () => {
      setFinding(true);
      try {
        const { found } = await outlines();
        edges.replace(found === null ? { corners: wholePicture(page.width, page.height) } : laidBy(found));
      } finally {
        setFinding(false);
      }
    },
    takeWholePhoto: () => edges.replace({ corners: wholePicture(page.width, page.height) }),
    straightenOnly: () =>
      edges.replace({ corners: straightRectangle(edges.corners), bends: ALL_STRAIGHT, sheet: 'free' }),
    straightenSides:
      edges.lines.length === 0 && mostBent(edges.bends) === 0
        ? null
        : () => edges.replace({ bends: ALL_STRAIGHT, lines: [] }),
    takePageBefore:
      before === undefined
        ? null
        : () => {
            const { corners, bends } = before.recipe.outline;
            edges.replace({
              corners: mapQuad(corners, (p) => ({
                x: (p.x * page.width) / before.width,
                y: (p.y * page.height) / before.height,
              })),
              bends,
              lines: edges.lines,
              sheet: before.recipe.sheet,
            });
          },
    toggleBending: () => setBending(!bending),
    toggleSnapping: () => setSnapping(!snapping),
    toggleFlat: () => setLookingFlat(!lookingFlat),
    toggleGrid: () => setShowingGrid(!showingGrid),
    chooseSheet: (sheet) => edges.replace({ sheet }),
  };
}
