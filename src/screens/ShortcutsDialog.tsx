import { t } from '@lingui/core/macro';
import { ScrollView, View } from 'react-native';
import { Button } from '../ui/Button';
import { Dialog } from '../ui/Dialog';
import { KEY_LIST } from '../ui/shortcuts';
import { Text } from '../ui/Text';

/** All keys, on a wide screen. */
export function ShortcutsDialog({ onClose }: { readonly onClose: () => void }) {
  return (
    <Dialog label={t`Keys`} onClose={onClose}>
      <Text variant="title">{t`Keys`}</Text>
      <ScrollView className="py-3">
        {KEY_LIST.map(([key, does]) => (
          <View key={typeof key === 'string' ? key : key.id} className="flex-row gap-4 border-b border-rule-faint py-2">
            <Text variant="strong" className="w-[190px]">
              {typeof key === 'string' ? key : t(key)}
            </Text>
            <Text className="flex-1">{t(does)}</Text>
          </View>
        ))}
      </ScrollView>
      <Button label={t`Close`} onPress={onClose} />
    </Dialog>
  );
}
