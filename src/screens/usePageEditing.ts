import { useState } from 'react';
import type { HandIn, Page } from '../../core/handIn/handIn';
import { recornerRecipe } from '../../core/recipe/recipe';
import { useEdgesDraft, type EdgesDraft } from '../edges/useEdgesDraft';
import { loadOriginal } from '../pictures/loadOriginal';
import { setRecipe } from '../stores/handInStore';
import { previewWorker } from '../workers/pageWorkers';

export interface PageEditing {
  readonly edges: EdgesDraft;
  readonly editingEdges: boolean;
  readonly finding: boolean;
  readonly openEdges: () => void;
  readonly leaveEdges: () => void;
  readonly saveEdges: () => Promise<void>;
  readonly findEdges: () => Promise<void>;
  readonly takeWholePhoto: () => void;
}

/** What the edges tool holds while it is open on a page. */
export function usePageEditing(handIn: HandIn, page: Page): PageEditing {
  const edges = useEdgesDraft(page);
  const [editingEdges, setEditingEdges] = useState(false);
  const [finding, setFinding] = useState(false);
  return {
    edges,
    editingEdges,
    finding,
    openEdges: () => {
      edges.replace(page.recipe.outline.corners);
      setEditingEdges(true);
    },
    leaveEdges: () => setEditingEdges(false),
    saveEdges: async () => {
      await setRecipe(handIn.id, page, recornerRecipe(page.recipe, edges.corners), 'the edges');
      setEditingEdges(false);
    },
    findEdges: async () => {
      setFinding(true);
      try {
        const { kind, finish } = page.recipe;
        const { pages } = await previewWorker.run({ kind: 'find', original: await loadOriginal(page), finish, pageKind: kind });
        edges.replace(pages[0]!.recipe.outline.corners);
      } finally {
        setFinding(false);
      }
    },
    takeWholePhoto: edges.takeWholePhoto,
  };
}
