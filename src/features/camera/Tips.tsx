import { msg, t } from '@lingui/core/macro';
import { useState } from 'react';
import { View } from 'react-native';
import { Button } from '../../ui/Button';
import { Dialog } from '../../ui/Dialog';
import { Text } from '../../ui/Text';
import { TipDrawing } from './TipDrawing';

const TIPS = [
  {
    drawing: 'light',
    title: msg`Even light`,
    text: msg`A lamp from the side, not from behind you: your shadow then falls off the page.`,
  },
  {
    drawing: 'steady',
    title: msg`Hold steady`,
    text: msg`Hold the phone level above the page, and a moment longer than you think.`,
  },
  {
    drawing: 'corners',
    title: msg`All four corners in`,
    text: msg`Leave a little of the desk around the page. A dark, plain desk is best.`,
  },
] as const;

/** Three short tips, the first time; skippable, and found again in the settings. */
export function Tips({ onDone }: { readonly onDone: () => void }) {
  const [at, setAt] = useState(0);
  const { drawing, title, text } = TIPS[at]!;
  const last = at === TIPS.length - 1;
  return (
    <Dialog label={t`Tips for good photos`} onClose={onDone}>
      <Text variant="soft" className="tabular-nums">{t`${{ place: at + 1 }} of ${{ count: TIPS.length }}`}</Text>
      <TipDrawing of={drawing} />
      <Text variant="title">{t(title)}</Text>
      <Text>{t(text)}</Text>
      <View className="flex-row justify-end gap-2 pt-2">
        {last ? null : <Button variant="text" label={t`Skip`} accessibilityLabel={t`Skip the tips`} onPress={onDone} />}
        <Button label={last ? t`Start` : t`Next tip`} onPress={() => (last ? onDone() : setAt(at + 1))} />
      </View>
    </Dialog>
  );
}
