import { useState } from 'react';
import { View } from 'react-native';
import { Action } from '../components/Action';
import { CropMarks } from '../components/CropMarks';
import { Words } from '../components/Words';

const TIPS = [
  { title: 'Even light', text: 'A lamp from the side, not from behind you: your shadow then falls off the page.' },
  { title: 'Hold steady', text: 'Hold the phone level above the page, and a moment longer than you think.' },
  { title: 'All four corners in', text: 'Leave a little of the desk around the page. A dark, plain desk is best.' },
] as const;

/** Three short tips, the first time; skippable, and found again under the camera's settings. */
export function Tips({ onDone }: { readonly onDone: () => void }) {
  const [at, setAt] = useState(0);
  const { title, text } = TIPS[at]!;
  const last = at === TIPS.length - 1;
  return (
    <View
      role="dialog"
      aria-label="Tips for good photos"
      className="absolute bottom-0 left-0 right-0 top-0 items-center justify-center bg-night/70 p-6"
    >
      <View className="w-full max-w-[360px] gap-3 bg-sheet p-5">
        <CropMarks colour="border-beet-light" />
        <Words as="soft" className="tabular-nums">{`${at + 1} of ${TIPS.length}`}</Words>
        <Words as="title">{title}</Words>
        <Words>{text}</Words>
        <View className="flex-row justify-end gap-2 pt-2">
          {last ? null : <Action kind="quiet" label="Skip" spoken="Skip the tips" onPress={onDone} />}
          <Action label={last ? 'Start' : 'Next tip'} onPress={() => (last ? onDone() : setAt(at + 1))} />
        </View>
      </View>
    </View>
  );
}
