import { t } from '@lingui/core/macro';
import { useStore } from 'zustand';
import type { StoreApi } from 'zustand/vanilla';
import { Text } from '../../ui/Text';
import { COACHING_WORDS } from './cameraText';
import type { LiveState } from './liveState';

/** One line on what to do with the phone, or that it is good. */
export function CoachingLine({ live, starting }: { readonly live: StoreApi<LiveState>; readonly starting: boolean }) {
  const coaching = useStore(live, (s) => s.coaching);
  return (
    <Text role="status" variant="strong" tone="chalk" className="text-center">
      {starting ? t`Starting the camera` : t(COACHING_WORDS[coaching])}
    </Text>
  );
}
