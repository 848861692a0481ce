import { t } from '@lingui/core/macro';
import { shortDate } from '../../i18n/formats';
import { useEffect, useState } from 'react';
import { View } from 'react-native';
import type { ScreenView } from '../../../contract/views';
import { Button } from '../../ui/Button';
import { Text } from '../../ui/Text';
import { useStore } from 'zustand';
import { useEngine } from '../../engine/useEngine';
import { screenName } from './screenName';

/** The screens that show this work, and the way to end each link. */
export function LinkedScreens() {
  const { api, device } = useEngine();
  const changed = useStore(device, (s) => s.screensChanged);
  const [screens, setScreens] = useState<readonly ScreenView[]>([]);
  const [cut, setCut] = useState(0);
  useEffect(() => {
    api.screens().then(setScreens, () => undefined);
  }, [api, changed, cut]);
  const cutOff = async (id: string): Promise<void> => {
    await api.cutOff(id).catch(() => undefined);
    setCut((n) => n + 1);
  };
  return (
    <View className="gap-2">
      <Text variant="head">{t`Linked screens`}</Text>
      {screens.length > 1 ? (
        <Text variant="soft">
          {t`A screen that you unlink shows this work no more. One that joined leaves with the hand-ins it brought.`}
        </Text>
      ) : null}
      <View role="list" aria-label={t`Linked screens`} className="gap-1">
        {screens.map(({ id, kind, person, linkedAtMs, seenAtMs, thisOne, cameAlong }) => (
          <View
            key={id}
            role="listitem"
            className="flex-row items-center justify-between gap-2 rounded border border-rule-faint bg-sheet px-3 py-1"
          >
            <View className="flex-1">
              <Text variant="strong">{`${screenName({ kind, person })}${thisOne ? t`, this one` : ''}`}</Text>
              <Text variant="soft">
                {thisOne
                  ? t`Since ${{ date: shortDate(linkedAtMs) }}`
                  : t`Since ${{ date: shortDate(linkedAtMs) }}, last here ${{ seen: shortDate(seenAtMs) }}`}
              </Text>
            </View>
            {thisOne && !cameAlong ? null : (
              <Button
                variant="text"
                label={t`Unlink`}
                accessibilityLabel={t`Unlink ${{ screen: screenName({ kind, person }, 'the') }}, linked ${{ date: shortDate(linkedAtMs) }}`}
                onPress={() => void cutOff(id)}
              />
            )}
          </View>
        ))}
      </View>
    </View>
  );
}
