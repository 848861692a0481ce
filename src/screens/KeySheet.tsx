import { Modal, ScrollView, View } from 'react-native';
import { Action } from '../components/Action';
import { Words } from '../components/Words';
import { usePageKeys } from './usePageKeys';

const KEYS: readonly (readonly [string, string])[] = [
  ['Page Up, Page Down', 'the page before, the page after'],
  ['E', 'edges'],
  ['M', 'mend'],
  ['W', 'write on the page'],
  ['T', 'turn to the right'],
  ['O', 'leave out of the file, or take in again'],
  ['Delete', 'remove the page'],
  ['C', 'choose several pages'],
  ['R', 'read through'],
  ['Space, arrows, Space', 'on a page’s handle: lift, move, lay down'],
  ['Arrow keys', 'move a corner, a side, a slider or the brush; with Shift further'],
  ['Alt', 'held while dragging a corner: no snapping'],
  ['F', 'find words while reading'],
  ['+ and −', 'closer and farther while reading'],
  ['Ctrl Z, Ctrl Shift Z', 'undo, redo'],
  ['Escape', 'close what is open'],
  ['?', 'this list'],
];

/** All keys, on a wide screen. */
export function KeySheet({ onClose }: { readonly onClose: () => void }) {
  usePageKeys({ Escape: onClose }, true);
  return (
    <Modal transparent onRequestClose={onClose} aria-label="Keys">
      <View className="flex-1 items-center justify-center bg-night/60 p-6">
        <View className="max-h-full w-[560px] rounded bg-paper p-6 shadow-sheet">
          <Words as="title">Keys</Words>
          <ScrollView className="py-3">
            {KEYS.map(([key, does]) => (
              <View key={key} className="flex-row gap-4 border-b border-rule-faint py-2">
                <Words as="strong" className="w-[190px]">
                  {key}
                </Words>
                <Words className="flex-1">{does}</Words>
              </View>
            ))}
          </ScrollView>
          <Action label="Close" onPress={onClose} />
        </View>
      </View>
    </Modal>
  );
}
