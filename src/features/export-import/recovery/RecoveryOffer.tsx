import { t } from '@lingui/core/macro';
import { useRouter } from 'expo-router';
import { View } from 'react-native';
import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import { boundPages, type HandIn } from '../../../../core/work/hand-in/handIn';
import { Button } from '../../../ui/Button';
import { Text } from '../../../ui/Text';
import { useRecoveryMadeAt } from './useRecoveryCode';

/** So many pages are work that somebody would miss. */
const WORTH_KEEPING_PAGES = 3;

const useOfferStore = create<{ readonly declined: boolean }>()(
  persist((): { readonly declined: boolean } => ({ declined: false }), { name: 'fotoplan-recovery-offer', version: 1 }),
);

/** Offers a recovery code once there is work worth keeping; waved away, it does not come back on this device. */
export function RecoveryOffer({ handIns }: { readonly handIns: readonly HandIn[] }) {
  const router = useRouter();
  const declined = useOfferStore((s) => s.declined);
  const isWorthIt =
    !declined &&
    handIns.some(
      (handIn) => boundPages(handIn).filter(({ takenAtMs }) => takenAtMs !== null).length >= WORTH_KEEPING_PAGES,
    );
  return isWorthIt ? (
    <Offer onMake={() => router.push('/settings')} onDecline={() => useOfferStore.setState({ declined: true })} />
  ) : null;
}

function Offer({ onMake, onDecline }: { readonly onMake: () => void; readonly onDecline: () => void }) {
  const [madeAtMs] = useRecoveryMadeAt();
  if (madeAtMs !== null) return null;
  return (
    <View
      role="region"
      aria-label={t`Recovery code`}
      className="m-2 gap-2 rounded border border-rule-faint bg-sheet p-3"
    >
      <Text>{t`Nothing but this device opens your work. A recovery code brings it back if the device is lost.`}</Text>
      <View className="flex-row flex-wrap gap-2">
        <Button label={t`Make a recovery code`} onPress={onMake} />
        <Button
          variant="text"
          label={t`Not now`}
          accessibilityLabel={t`Not now: no recovery code`}
          onPress={onDecline}
        />
      </View>
    </View>
  );
}
