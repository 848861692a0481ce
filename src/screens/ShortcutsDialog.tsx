import type { MessageDescriptor } from '@lingui/core';
import { msg, t } from '@lingui/core/macro';
import { Modal, ScrollView, View } from 'react-native';
import { Button } from '../ui/Button';
import { Text } from '../ui/Text';
import { useKeys } from '../ui/useKeys';

const KEYS: readonly (readonly [MessageDescriptor | string, MessageDescriptor])[] = [
  [msg`Page Up, Page Down`, msg`the page before, the page after`],
  ['E', msg`edges`],
  ['M', msg`mend`],
  ['W', msg`write on the page`],
  ['T', msg`turn to the right`],
  ['O', msg`leave out of the file, or take in again`],
  [msg`Delete`, msg`remove the page`],
  ['C', msg`choose several pages`],
  ['R', msg`read through`],
  [msg`Space, arrows, Space`, msg`on a page’s handle: lift, move, lay down`],
  [msg`Arrow keys`, msg`move a corner, a side, a slider or the brush; with Shift further`],
  ['Alt', msg`held while dragging a corner: no snapping`],
  ['F', msg`find words while reading`],
  [msg`+ and −`, msg`closer and farther while reading`],
  [msg`Ctrl Z, Ctrl Shift Z`, msg`undo, redo`],
  ['Escape', msg`close what is open`],
  ['?', msg`this list`],
];

/** All keys, on a wide screen. */
export function ShortcutsDialog({ onClose }: { readonly onClose: () => void }) {
  useKeys({ Escape: onClose }, true);
  return (
    <Modal transparent onRequestClose={onClose} aria-label={t`Keys`}>
      <View className="flex-1 items-center justify-center bg-night/60 p-6">
        <View className="max-h-full w-[560px] rounded bg-paper p-6 shadow-sheet">
          <Text variant="title">{t`Keys`}</Text>
          <ScrollView className="py-3">
            {KEYS.map(([key, does]) => (
              <View
                key={typeof key === 'string' ? key : key.id}
                className="flex-row gap-4 border-b border-rule-faint py-2"
              >
                <Text variant="strong" className="w-[190px]">
                  {typeof key === 'string' ? key : t(key)}
                </Text>
                <Text className="flex-1">{t(does)}</Text>
              </View>
            ))}
          </ScrollView>
          <Button label={t`Close`} onPress={onClose} />
        </View>
      </View>
    </Modal>
  );
}
