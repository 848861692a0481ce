import { t } from '@lingui/core/macro';
import { View } from 'react-native';
import { useStore } from 'zustand';
import type { HandIn } from '../../core/handIn/handIn';
import { Action } from '../components/Action';
import { Flag } from '../components/Flag';
import { Words } from '../components/Words';
import { useEngine } from '../engine/useEngine';
import { errorText } from '../i18n/errorText';
import type { BindingState } from '../jobs/binding';
import { useBind } from './useBind';

/** How far binding has come, with a way to stop it; or why it failed, and what else can be done. */
export function BindProgress({ handIn, binding }: { readonly handIn: HandIn; readonly binding: BindingState }) {
  const bind = useBind();
  const reading = useStore(useEngine().words.state, (s) => s.reading);
  if (binding.state === 'failed') {
    const { parts } = binding;
    return (
      <View className="gap-2">
        <Flag kind="broken" live>
          {errorText(binding.problem, t`The file could not be made. Reload, then bind again; your pages are kept.`)}
        </Flag>
        {parts > 1 ? (
          <View className="items-start">
            <Action label={t`Bind ${parts} numbered parts`} onPress={() => bind(handIn, true)} />
          </View>
        ) : null}
      </View>
    );
  }
  if (binding.state !== 'binding') return null;
  return (
    <View className="gap-2">
      <View
        role="progressbar"
        aria-label={t`Binding`}
        aria-valuenow={Math.round(binding.share * 100)}
        aria-valuemin={0}
        aria-valuemax={100}
        className="h-3 border border-rule bg-sheet"
      >
        <View className="h-full bg-beet" style={{ width: `${binding.share * 100}%` }} />
      </View>
      {reading?.handInId === handIn.id ? (
        <Words
          as="soft"
          className="tabular-nums"
        >{t`Reading page ${{ done: reading.done + 1 }} of ${{ of: reading.of }}`}</Words>
      ) : null}
      <View className="items-start">
        <Action label={t`Stop`} onPress={binding.stop} />
      </View>
    </View>
  );
}
