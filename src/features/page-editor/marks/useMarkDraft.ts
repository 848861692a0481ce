import { nanoid } from 'nanoid';
import { useState } from 'react';
import type { Point } from '../../../../core/imaging/geometry/point';
import type { HandIn, Page } from '../../../../core/work/hand-in/handIn';
import { eraseAt, MARK_COLOURS, MARK_LIMITS, type Mark, type MarkColour } from '../../../../core/work/marks/marks';
import { useSteps } from '../useSteps';
import { useEngine } from '../../../engine/useEngine';
import { thinned } from '../../../zoom/thinned';
import { SIGNATURE_ASPECT, useSignatureStore } from './signatureStore';

export const MARK_TOOLS = ['pen', 'highlighter', 'note', 'signature', 'eraser'] as const;
export type MarkTool = (typeof MARK_TOOLS)[number];

export interface MarkDraft {
  readonly open: boolean;
  readonly marks: readonly Mark[];
  readonly tool: MarkTool;
  readonly colour: MarkColour;
  /** 0 to 1, from the finest to the broadest. */
  readonly breadth: number;
  /** A note that is being written, and where it will stand. */
  readonly note: { readonly at: Point; readonly text: string } | null;
  /** Strokes of a signature that is being drawn; null where none is. */
  readonly signature: readonly (readonly Point[])[] | null;
  readonly canUndo: boolean;
  readonly canRedo: boolean;
  readonly full: boolean;
  readonly start: () => void;
  readonly leave: () => void;
  readonly save: () => Promise<void>;
  readonly choose: (tool: MarkTool) => void;
  readonly setColour: (colour: MarkColour) => void;
  readonly setBreadth: (breadth: number) => void;
  /** What the tool in hand does along these places of the page, in shares. */
  readonly draw: (places: readonly Point[], pageWidth: number, pageHeight: number) => void;
  readonly writeNote: (text: string) => void;
  readonly keepNote: () => void;
  readonly dropNote: () => void;
  readonly sign: (strokes: readonly (readonly Point[])[] | null) => void;
  readonly clear: () => void;
  readonly undo: () => void;
  readonly redo: () => void;
}

/** Of the page's long side, at breadth 0 and 1. */
const WIDTHS = { pen: [0.0012, 0.006], highlighter: [0.009, 0.03] } as const;
export const markWidth = (kind: keyof typeof WIDTHS, breadth: number): number =>
  WIDTHS[kind][0] + breadth * (WIDTHS[kind][1] - WIDTHS[kind][0]);
/** How near the eraser must come, as a share of the long side. */
const ERASER_REACH = 0.008;
const SIGNATURE_WIDTH = 0.28;
const SIGNATURE_PEN = 0.0022;
const place = ({ x, y }: Point): Point => ({ x: Math.round(x * 1e4) / 1e4, y: Math.round(y * 1e4) / 1e4 });

/** What is written on a page while the marks tool is open. */
export function useMarkDraft(handIn: HandIn, page: Page): MarkDraft {
  const { dispatch } = useEngine();
  const [open, setOpen] = useState(false);
  const [tool, setTool] = useState<MarkTool>('pen');
  const [colour, setColour] = useState<MarkColour>(MARK_COLOURS[1]);
  const [breadth, setBreadth] = useState(0.3);
  const [note, setNote] = useState<MarkDraft['note']>(null);
  const [signature, setSignature] = useState<MarkDraft['signature']>(null);
  const steps = useSteps<readonly Mark[]>(page.recipe.marks);
  const { present } = steps;
  const set = (marks: readonly Mark[]): void => {
    if (marks.length <= MARK_LIMITS.marks) steps.set(marks);
  };
  const withNote = (): readonly Mark[] => {
    const text = note?.text.trim().slice(0, MARK_LIMITS.text) ?? '';
    if (note === null || text === '' || present.length >= MARK_LIMITS.marks) return present;
    return [...present, { kind: 'note', id: nanoid(12), colour, at: note.at, text }];
  };
  return {
    open,
    marks: present,
    tool,
    colour,
    breadth,
    note,
    signature,
    canUndo: steps.canUndo,
    canRedo: steps.canRedo,
    full: present.length >= MARK_LIMITS.marks,
    start: () => {
      steps.begin(page.recipe.marks);
      setOpen(true);
    },
    leave: () => setOpen(false),
    save: async () => {
      const marks = withNote();
      if (steps.canUndo || marks !== present)
        await dispatch({
          kind: 'setRecipe',
          handInId: handIn.id,
          pageId: page.id,
          from: page.recipe,
          to: { ...page.recipe, marks },
          label: { key: 'marks' },
        });
      setOpen(false);
    },
    choose: (wanted) => {
      setTool(wanted);
      if (wanted === 'highlighter') setColour('#e6b800');
      else if (colour === '#e6b800') setColour(MARK_COLOURS[1]);
    },
    setColour,
    setBreadth,
    draw: (places, pageWidth, pageHeight) => {
      const at = places[0]!;
      if (tool === 'note') setNote({ at: place(at), text: '' });
      else if (tool === 'eraser') {
        const left = places.reduce((marks, each) => eraseAt(marks, each, ERASER_REACH, pageWidth, pageHeight), present);
        if (left.length < present.length) set(left);
      } else if (tool === 'signature') {
        const group = nanoid(12);
        const height = ((SIGNATURE_WIDTH / SIGNATURE_ASPECT) * pageWidth) / pageHeight;
        const strokes = useSignatureStore.getState().strokes.map((points): Mark => ({
          kind: 'signature',
          id: nanoid(12),
          group,
          colour,
          width: SIGNATURE_PEN,
          points: points.map(({ x, y }) =>
            place({ x: at.x + (x - 0.5) * SIGNATURE_WIDTH, y: at.y + (y - 0.5) * height }),
          ),
        }));
        if (strokes.length > 0) set([...present, ...strokes]);
      } else
        set([
          ...present,
          {
            kind: tool,
            id: nanoid(12),
            colour,
            width: markWidth(tool, breadth),
            points: thinned(places, MARK_LIMITS.points).map(place),
          },
        ]);
    },
    writeNote: (text) => setNote(note && { ...note, text }),
    keepNote: () => {
      const marks = withNote();
      if (marks !== present) set(marks);
      setNote(null);
    },
    dropNote: () => setNote(null),
    sign: setSignature,
    clear: () => set([]),
    undo: steps.undo,
    redo: steps.redo,
  };
}
