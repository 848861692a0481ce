import { msg, t } from '@lingui/core/macro';
import { useState } from 'react';
import { View } from 'react-native';
import { Action } from '../components/Action';
import { CropMarks } from '../components/CropMarks';
import { Words } from '../components/Words';

const TIPS = [
  {
    title: msg`Even light`,
    text: msg`A lamp from the side, not from behind you: your shadow then falls off the page.`,
  },
  { title: msg`Hold steady`, text: msg`Hold the phone level above the page, and a moment longer than you think.` },
  {
    title: msg`All four corners in`,
    text: msg`Leave a little of the desk around the page. A dark, plain desk is best.`,
  },
] as const;

/** Three short tips, the first time; skippable, and found again under the camera's settings. */
export function Tips({ onDone }: { readonly onDone: () => void }) {
  const [at, setAt] = useState(0);
  const { title, text } = TIPS[at]!;
  const last = at === TIPS.length - 1;
  return (
    <View
      role="dialog"
      aria-label={t`Tips for good photos`}
      className="absolute bottom-0 left-0 right-0 top-0 items-center justify-center bg-night/70 p-6"
    >
      <View className="w-full max-w-[360px] gap-3 bg-sheet p-5">
        <CropMarks colour="border-beet-light" />
        <Words as="soft" className="tabular-nums">{t`${{ place: at + 1 }} of ${{ count: TIPS.length }}`}</Words>
        <Words as="title">{t(title)}</Words>
        <Words>{t(text)}</Words>
        <View className="flex-row justify-end gap-2 pt-2">
          {last ? null : <Action kind="quiet" label={t`Skip`} spoken={t`Skip the tips`} onPress={onDone} />}
          <Action label={last ? t`Start` : t`Next tip`} onPress={() => (last ? onDone() : setAt(at + 1))} />
        </View>
      </View>
    </View>
  );
}
