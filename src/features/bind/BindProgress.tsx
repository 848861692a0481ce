import { t } from '@lingui/core/macro';
import { View } from 'react-native';
import { useStore } from 'zustand';
import type { HandIn } from '../../../core/work/hand-in/handIn';
import { Button } from '../../ui/Button';
import { StatusMessage } from '../../ui/StatusMessage';
import { ProgressBar } from '../../ui/ProgressBar';
import { Text } from '../../ui/Text';
import { useEngine } from '../../engine/useEngine';
import { errorText } from '../../i18n/errorText';
import type { BindingState } from '../../jobs/binding';
import { PressInstead } from './PressInstead';
import { useBind } from './useBind';

/** How far binding has come, with a way to stop it; or why it failed, and what else can be done. */
export function BindProgress({ handIn, binding }: { readonly handIn: HandIn; readonly binding: BindingState }) {
  const bind = useBind();
  const reading = useStore(useEngine().words.state, (s) => s.reading);
  if (binding.state === 'failed') {
    const { parts } = binding;
    return (
      <View className="gap-2">
        <StatusMessage status="error" announce>
          {errorText(binding.problem, t`The file could not be made. Reload, then bind again; your pages are kept.`)}
        </StatusMessage>
        <PressInstead handIn={handIn} problem={binding.problem} />
        {parts > 1 ? (
          <View className="items-start">
            <Button label={t`Bind ${parts} numbered parts`} onPress={() => bind(handIn, true)} />
          </View>
        ) : null}
      </View>
    );
  }
  if (binding.state !== 'binding') return null;
  return (
    <View className="gap-2">
      <ProgressBar label={t`Binding`} fraction={binding.share} />
      {reading?.handInId === handIn.id ? (
        <Text
          variant="soft"
          className="tabular-nums"
        >{t`Reading page ${{ done: reading.done + 1 }} of ${{ of: reading.of }}`}</Text>
      ) : null}
      <View className="items-start">
        <Button label={t`Stop`} onPress={binding.stop} />
      </View>
    </View>
  );
}
