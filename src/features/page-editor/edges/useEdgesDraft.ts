import { useReducer } from 'react';
import type { Page } from '../../../../core/work/hand-in/handIn';
import type { Sheet } from '../../../../core/imaging/geometry/standardSheets';
import { ALL_STRAIGHT, bowedBy, type Bends } from '../../../../core/imaging/geometry/bentOutline';
import type { PageLine } from '../../../../core/imaging/flatten/pageLine';
import { laySide, moveSide } from '../../../../core/imaging/geometry/editQuad';
import { distance, distanceToLine, type Point } from '../../../../core/imaging/geometry/point';
import { mapQuad, type Quad } from '../../../../core/imaging/geometry/quad';
import { outlineProblem, type OutlineProblem } from '../../../../core/work/recipe/recipe';

/** Why a corner or a side did not go where it was moved. */
export type EdgesProblem = OutlineProblem | 'wouldCross';

/** What the edges tool sets. */
export interface DraftOutline {
  readonly corners: Quad;
  readonly bends: Bends;
  /** Lines on the page that say how it lies between its sides. */
  readonly lines: readonly PageLine[];
  readonly sheet: Sheet;
}

/** What a page's recipe says of it. */
export const draftOf = ({ recipe: { outline, sheet } }: Page): DraftOutline => ({
  corners: outline.corners,
  bends: outline.bends,
  lines: outline.lines,
  sheet,
});

/** How a handle may stick to an edge found nearby. */
export interface Snap {
  /** Outlines that were found, likely or not, px of the original. */
  readonly targets: readonly Quad[];
  readonly reachPx: number;
}

interface History {
  readonly past: readonly DraftOutline[];
  readonly present: DraftOutline;
  readonly future: readonly DraftOutline[];
  /** What a drag began from; it becomes one step, however long the drag. */
  readonly origin: DraftOutline;
  /** Why the last move was not made, as a sentence, or null. */
  readonly problem: EdgesProblem | null;
}

type Action =
  | { readonly do: 'open'; readonly with: DraftOutline }
  | { readonly do: 'begin' | 'undo' | 'redo' }
  | { readonly do: 'set'; readonly page: Page; readonly change: (origin: DraftOutline) => DraftOutline | null };

function step(state: History, action: Action): History {
  const { past, present, future } = state;
  switch (action.do) {
    case 'open':
      return { past: [], present: action.with, future: [], origin: action.with, problem: null };
    case 'begin':
      return { ...state, origin: present, problem: null };
    case 'set': {
      const next = action.change(state.origin);
      const problem =
        next === null ? 'wouldCross' : outlineProblem(next.corners, action.page.width, action.page.height, next.bends);
      if (next === null || problem !== null) return { ...state, problem };
      const fresh = past.at(-1) !== state.origin;
      return { ...state, past: fresh ? [...past, state.origin] : past, present: next, future: [], problem: null };
    }
    case 'undo': {
      const before = past.at(-1);
      return before === undefined
        ? state
        : { past: past.slice(0, -1), present: before, future: [present, ...future], origin: before, problem: null };
    }
    case 'redo': {
      const [after, ...rest] = future;
      return after === undefined
        ? state
        : { past: [...past, present], present: after, future: rest, origin: after, problem: null };
    }
  }
}

export interface EdgesDraft extends DraftOutline {
  readonly problem: EdgesProblem | null;
  readonly canUndo: boolean;
  readonly canRedo: boolean;
  /** Starts again from this, with nothing to undo. */
  readonly open: (outline: DraftOutline) => void;
  /** What follows is one step, measured from here. */
  readonly begin: () => void;
  /** By how far from where the step began, px of the original. */
  readonly moveCorner: (index: number, by: Point, snap: Snap | null) => void;
  readonly moveSide: (side: number, outwardsPx: number, snap: Snap | null) => void;
  /** Moves the middle of a side away from its chord by a share of it, relative to where the step began. */
  readonly bendSide: (side: number, outwardsShare: number) => void;
  /** One step to a whole other outline. */
  readonly replace: (outline: Partial<DraftOutline>) => void;
  readonly undo: () => void;
  readonly redo: () => void;
}

/** An outline being set by hand, in pixels of the original. A move that would make it unusable is not made. */
export function useEdgesDraft(page: Page): EdgesDraft {
  const start = draftOf(page);
  const [state, send] = useReducer(step, { past: [], present: start, future: [], origin: start, problem: null });
  const set = (change: (origin: DraftOutline) => DraftOutline | null): void => send({ do: 'set', page, change });
  return {
    ...state.present,
    problem: state.problem,
    canUndo: state.past.length > 0,
    canRedo: state.future.length > 0,
    open: (outline) => send({ do: 'open', with: outline }),
    begin: () => send({ do: 'begin' }),
    moveCorner: (index, by, snap) =>
      set((from) => ({
        ...from,
        corners: mapQuad(from.corners, (p, i) =>
          i === index ? clampToPhoto(snapPoint({ x: p.x + by.x, y: p.y + by.y }, snap), page) : p,
        ),
      })),
    moveSide: (side, outwardsPx, snap) =>
      set((from) => {
        const moved = moveSide(from.corners, side, outwardsPx);
        const corners = moved === null ? null : snapSide(moved, side, snap);
        return corners === null ? null : { ...from, corners };
      }),
    bendSide: (side, share) =>
      set((from) => ({
        ...from,
        bends: from.bends.map((bend, s) => (s === side ? bowedBy(bend, share) : bend)) as unknown as Bends,
      })),
    replace: (outline) => {
      send({ do: 'begin' });
      set((from) => ({
        ...from,
        ...(outline.corners === undefined ? {} : { bends: ALL_STRAIGHT, lines: [] }),
        ...outline,
      }));
    },
    undo: () => send({ do: 'undo' }),
    redo: () => send({ do: 'redo' }),
  };
}

/** Hands set corners within the photo: what lies outside it cannot be seen. */
const clampToPhoto = ({ x, y }: Point, { width, height }: Page): Point => ({
  x: Math.min(width, Math.max(0, x)),
  y: Math.min(height, Math.max(0, y)),
});

/** The nearest found corner within reach, or the place itself. */
function snapPoint(to: Point, snap: Snap | null): Point {
  let best = to;
  let nearest = snap?.reachPx ?? 0;
  for (const corner of snap?.targets.flat() ?? []) {
    const away = distance(corner, to);
    if (away < nearest) {
      nearest = away;
      best = corner;
    }
  }
  return best;
}

/** The side laid on the nearest found line within reach of both its corners, or as it is. */
function snapSide(quad: Quad, side: number, snap: Snap | null): Quad {
  let best = quad;
  let nearest = snap?.reachPx ?? 0;
  for (const target of snap?.targets ?? []) {
    for (let s = 0; s < 4; s++) {
      const from = target[s]!;
      const to = target[(s + 1) % 4]!;
      const away = Math.max(
        Math.abs(distanceToLine(quad[side]!, from, to)),
        Math.abs(distanceToLine(quad[(side + 1) % 4]!, from, to)),
      );
      const laid = away < nearest ? laySide(quad, side, from, to) : null;
      if (laid !== null) {
        nearest = away;
        best = laid;
      }
    }
  }
  return best;
}
