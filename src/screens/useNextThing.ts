import { plural, t } from '@lingui/core/macro';
import { useRouter } from 'expo-router';
import { boundPages, shownPages, type HandIn, type Page } from '../../core/handIn/handIn';
import { needsEdgeCheck, needsTurnCheck, outlineRecipe, turnRecipe, type Recipe } from '../../core/recipe/recipe';
import { useEngine } from '../engine/useEngine';

/** What is sensible next on a page: finish with the tool that is open, go back to where it was opened from, confirm unsure edges, go on to the next page, then bind. */
export function useNextThing(
  handIn: HandIn,
  page: Page,
  openTool: { readonly label: string; readonly onPress: () => void } | null,
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
  if (openTool !== null) return openTool;
  if (from === 'shoot')
    return { label: t`Back to the camera`, onPress: () => router.replace(`/hand-in/${handIn.id}/shoot`) };
  if (from === 'read')
    return { label: t`Back to reading`, onPress: () => router.replace(`/hand-in/${handIn.id}/read?at=${page.id}`) };
  if (needsEdgeCheck(page.recipe)) {
    return {
      label: t`These edges are right`,
      onPress: () => confirm(outlineRecipe(page.recipe, page.recipe.outline.corners, page.recipe.outline.bends)),
    };
  }
  if (needsTurnCheck(page.recipe)) {
    return { label: t`This is the right way up`, onPress: () => confirm(turnRecipe(page.recipe, 0)) };
  }
  if (after !== undefined)
    return {
      label: t`Go on to page ${{ at: at + 2 }}`,
      onPress: () => router.replace(`/hand-in/${handIn.id}/page/${after.id}`),
    };
  const count = boundPages(handIn).length;
  return {
    label: plural(count, { one: 'Bind # page', other: 'Bind # pages' }),
    onPress: () => router.replace(`/hand-in/${handIn.id}/bind?now=1`),
  };
}
