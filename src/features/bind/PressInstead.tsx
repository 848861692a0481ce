import { plural, t } from '@lingui/core/macro';
import { View } from 'react-native';
import type { WireError } from '../../../core/errors';
import { boundPages, type HandIn, type Page } from '../../../core/work/hand-in/handIn';
import { isTakenAsIs } from '../../../core/work/recipe/recipe';
import { Button } from '../../ui/Button';
import { Text } from '../../ui/Text';
import { useEngine } from '../../engine/useEngine';
import { PageImage } from '../../page-picture/PageImage';
import { useBind } from './useBind';

/** Long side of the two pictures, px: shown smaller, so that two levels look as they do in print. */
const SHOWN_PX = 1400;

/** Where a limit cannot be kept and Press, the smallest finish, was not chosen: a page of those concerned both ways, and one tap to have them so. */
export function PressInstead({ handIn, problem }: { readonly handIn: HandIn; readonly problem: WireError }) {
  const { dispatch } = useEngine();
  const bind = useBind();
  const pages = pagesThatMayBePress(handIn, problem);
  const [shown] = pages;
  if (shown === undefined) return null;
  const number = boundPages(handIn).indexOf(shown) + 1;
  const asPress: Page = { ...shown, recipe: { ...shown.recipe, finish: 'press' } };
  const toPress = async (): Promise<void> => {
    await dispatch({
      kind: 'setLight',
      handInId: handIn.id,
      pageIds: pages.map(({ id }) => id),
      finish: 'press',
      light: null,
      label: { key: 'finish' },
    });
    bind(handIn);
  };
  return (
    <View className="gap-3">
      <Text>{t`In Press, black on white only, a page weighs less. This is page ${number} both ways:`}</Text>
      <View className="flex-row gap-3">
        {[
          { page: shown, name: t`as it is` },
          { page: asPress, name: t`in Press` },
        ].map(({ page, name }) => (
          <View key={name} className="flex-1 gap-1">
            <View className="h-[240px]">
              <PageImage page={page} longSidePx={SHOWN_PX} label={t`Page ${number}: ${name}`} />
            </View>
            <Text variant="soft" className="text-center">
              {name}
            </Text>
          </View>
        ))}
      </View>
      <View className="items-start">
        <Button
          label={
            pages.length === 1
              ? t`Use Press for page ${number}`
              : plural({ count: pages.length }, { one: 'Use Press for # page', other: 'Use Press for # pages' })
          }
          onPress={() => void toPress()}
        />
      </View>
    </View>
  );
}

/** The page that alone is too much, or all of them: those that are pictures and not Press yet. */
function pagesThatMayBePress(handIn: HandIn, { code, facts }: WireError): readonly Page[] {
  if (code !== 'FILE_TOO_LARGE') return [];
  const pages = boundPages(handIn);
  const concerned = facts.page === undefined ? pages : pages.slice(Number(facts.page), Number(facts.page) + 1);
  return concerned.filter((page) => !isTakenAsIs(page) && page.recipe.finish !== 'press');
}
