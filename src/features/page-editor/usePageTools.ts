import { useEffect, useRef } from 'react';
import type { HandIn, Page } from '../../../core/work/hand-in/handIn';
import { useLightDraft, type LightDraft } from './light/useLightDraft';
import { useMarkDraft, type MarkDraft } from './marks/useMarkDraft';
import { useMendDraft, type MendDraft } from './mend/useMendDraft';
import { useZoom, type Zoom } from '../../zoom/useZoom';
import { usePageEditing, type PageEditing } from './usePageEditing';

export interface OpenTools {
  readonly editing: PageEditing;
  readonly mending: MendDraft;
  readonly marking: MarkDraft;
  readonly zoom: Zoom;
  readonly light: LightDraft;
  /** The tool that takes up the page's place, and how it is finished with; null where none does. */
  readonly openTool: {
    readonly kind: 'edges' | 'mend' | 'marks';
    readonly isChanged: boolean;
    readonly save: () => void;
  } | null;
}

/** What every tool holds for a page. What is under way when the page is left by another way than Done or Cancel is kept, as one step. */
export function usePageTools(handIn: HandIn, page: Page): OpenTools {
  const editing = usePageEditing(handIn, page);
  const mending = useMendDraft(handIn, page);
  const marking = useMarkDraft(handIn, page);
  const zoom = useZoom();
  const light = useLightDraft(handIn, page);
  const openTool = editing.editingEdges
    ? { kind: 'edges' as const, isChanged: editing.edges.canUndo, save: () => void editing.saveEdges() }
    : mending.open
      ? { kind: 'mend' as const, isChanged: mending.canUndo, save: () => void mending.save() }
      : marking.open
        ? {
            kind: 'marks' as const,
            isChanged: marking.canUndo || marking.note !== null,
            save: () => void marking.save(),
          }
        : null;
  const keep = useRef<(() => void) | null>(null);
  useEffect(() => {
    keep.current = openTool?.isChanged === true ? openTool.save : null;
  });
  useEffect(() => () => keep.current?.(), []);
  return { editing, mending, marking, zoom, light, openTool };
}
