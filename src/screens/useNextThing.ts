import { useRouter } from 'expo-router';
import { boundPages, shownPages, type HandIn, type Page } from '../../core/work/hand-in/handIn';
import { needsEdgeCheck, needsTurnCheck, outlineRecipe, turnRecipe, type Recipe } from '../../core/work/recipe/recipe';
import { useEngine } from '../engine/useEngine';
import type { OpenTools } from '../features/page-editor/usePageTools';
import { nextAction } from './nextAction';
import { nextLabel } from './nextLabel';

/** The next thing on a page, with what it does. */
export function useNextThing(
  handIn: HandIn,
  page: Page,
  openTool: OpenTools['openTool'],
  from?: string,
): { label: string; onPress: () => void } {
  const router = useRouter();
  const { dispatch } = useEngine();
  const confirm = (to: Recipe): void =>
    void dispatch({
      kind: 'setRecipe',
      handInId: handIn.id,
      pageId: page.id,
      from: page.recipe,
      to,
      label: { key: 'check' },
    });
  const pages = shownPages(handIn);
  const at = pages.findIndex(({ id }) => id === page.id);
  const after = pages[at + 1];
  const action = nextAction({
    stage: 'page',
    tool: openTool?.kind ?? null,
    from: from === 'shoot' || from === 'read' ? from : null,
    edgesUnsure: needsEdgeCheck(page.recipe),
    turnUnsure: needsTurnCheck(page.recipe),
    pageAfter: after === undefined ? null : at + 2,
    pages: boundPages(handIn).length,
  });
  const onPress = (): void => {
    switch (action.does) {
      case 'saveEdges':
      case 'finishTool':
        return openTool?.save();
      case 'backToCamera':
        return router.replace(`/hand-in/${handIn.id}/shoot`);
      case 'backToReading':
        return router.replace(`/hand-in/${handIn.id}/read?at=${page.id}`);
      case 'confirmEdges':
        return confirm(outlineRecipe(page.recipe, page.recipe.outline));
      case 'confirmTurn':
        return confirm(turnRecipe(page.recipe, 0));
      case 'openPage':
        return router.replace(`/hand-in/${handIn.id}/page/${after!.id}`);
      default:
        return router.replace(`/hand-in/${handIn.id}/bind?now=1`);
    }
  };
  return { label: nextLabel(action), onPress };
}
