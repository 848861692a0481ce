import { t } from '@lingui/core/macro';
import type { HandIn, Page } from '../../../core/handIn/handIn';
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
  /** How the tool that takes up the page's place is finished with, or null where none does. */
  readonly openTool: { readonly label: string; readonly onPress: () => void } | null;
}

/** What every tool holds for a page. */
export function usePageTools(handIn: HandIn, page: Page): OpenTools {
  const editing = usePageEditing(handIn, page);
  const mending = useMendDraft(handIn, page);
  const marking = useMarkDraft(handIn, page);
  const zoom = useZoom();
  const light = useLightDraft(handIn, page);
  const openTool = editing.editingEdges
    ? { label: t`Use these edges`, onPress: () => void editing.saveEdges() }
    : mending.open
      ? { label: t`Done`, onPress: () => void mending.save() }
      : marking.open
        ? { label: t`Done`, onPress: () => void marking.save() }
        : null;
  return { editing, mending, marking, zoom, light, openTool };
}
