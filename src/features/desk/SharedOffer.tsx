import { plural, t } from '@lingui/core/macro';
import { useRouter } from 'expo-router';
import { useEffect, useState } from 'react';
import { View } from 'react-native';
import { countShared } from '../../photos/sharedFiles';
import { Button } from '../../ui/Button';
import { Text } from '../../ui/Text';

/** Says on the desk that something shared with the app has not become pages yet: it was closed before, or there was no room. */
export function SharedOffer() {
  const router = useRouter();
  const [count, setCount] = useState(0);
  useEffect(() => {
    countShared().then(setCount, () => undefined);
  }, []);
  if (count === 0) return null;
  return (
    <View role="status" className="flex-row items-center gap-2 border-t border-rule-faint bg-sheet py-1 ps-4 pe-2">
      <Text className="flex-1">
        {plural(count, { one: '# shared file is no page yet.', other: '# shared files are no pages yet.' })}
      </Text>
      <Button
        label={t`See them`}
        accessibilityLabel={t`See them: what was shared`}
        onPress={() => router.push('/shared')}
      />
    </View>
  );
}
