import { plural, t } from '@lingui/core/macro';
import { useState } from 'react';
import { ScrollView, View } from 'react-native';
import { shownPages, type HandIn, type Page } from '../../../../core/work/hand-in/handIn';
import { Button } from '../../../ui/Button';
import { Text } from '../../../ui/Text';

/** Chooses the pages that get this page's light: all of them, or some by their numbers. */
export function PageChoice({
  handIn,
  page,
  onDone,
}: {
  readonly handIn: HandIn;
  readonly page: Page;
  readonly onDone: (pageIds: readonly string[]) => void;
}) {
  const pages = shownPages(handIn);
  const [chosen, setChosen] = useState<readonly string[]>([]);
  const toggle = (id: string): void =>
    setChosen(chosen.includes(id) ? chosen.filter((each) => each !== id) : [...chosen, id]);
  return (
    <View className="gap-2 px-3 pb-2">
      <Text variant="soft">{t`Use this page’s light on:`}</Text>
      <ScrollView className="max-h-[104px]" tabIndex={0} aria-label={t`Pages to choose from`}>
        <View role="group" aria-label={t`Pages`} className="flex-row flex-wrap gap-2">
          {pages.map(({ id }, i) =>
            id === page.id ? null : (
              <Button
                key={id}
                label={String(i + 1)}
                accessibilityLabel={t`Page ${{ i: i + 1 }}`}
                pressed={chosen.includes(id)}
                onPress={() => toggle(id)}
              />
            ),
          )}
        </View>
      </ScrollView>
      <View className="flex-row flex-wrap gap-2">
        <Button
          label={t`Every page`}
          accessibilityLabel={t`Every page: use this light`}
          onPress={() => onDone(pages.map(({ id }) => id))}
        />
        {chosen.length > 0 ? (
          <Button
            label={plural({ count: chosen.length }, { one: 'This page', other: 'These # pages' })}
            accessibilityLabel={t`${plural({ count: chosen.length }, { one: 'This page', other: 'These # pages' })}: use this light`}
            onPress={() => onDone(chosen)}
          />
        ) : null}
        <Button variant="text" label={t`Cancel`} onPress={() => onDone([])} />
      </View>
    </View>
  );
}
