import { t } from '@lingui/core/macro';
import { useRouter } from 'expo-router';
import { View } from 'react-native';
import { PrimaryBar } from '../ui/PrimaryBar';
import { EmptyState } from '../ui/EmptyState';

export function NotFoundScreen() {
  const router = useRouter();
  return (
    <View role="main" className="flex-1 bg-paper">
      <EmptyState
        title={t`Not found`}
        text={t`This hand-in or page is not here, or it was deleted. Deleted ones can be restored for 30 days under Settings.`}
      />
      <PrimaryBar label={t`Go to the desk`} onPress={() => router.replace('/')} />
    </View>
  );
}
