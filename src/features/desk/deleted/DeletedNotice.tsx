import { t } from '@lingui/core/macro';
import { View } from 'react-native';
import type { HandIn } from '../../../../core/work/hand-in/handIn';
import { Button } from '../../../ui/Button';
import { Text } from '../../../ui/Text';
import { useEngine } from '../../../engine/useEngine';

/** Says what was just deleted, with the way back. */
export function DeletedNotice({ handIn, onDone }: { readonly handIn: HandIn; readonly onDone: () => void }) {
  const { dispatch } = useEngine();
  const undo = (): void => void dispatch({ kind: 'restoreHandIn', handInId: handIn.id }).then(onDone);
  return (
    <View role="status" className="flex-row items-center gap-2 border-t border-rule-faint bg-sheet py-1 ps-4 pe-2">
      <Text className="flex-1" numberOfLines={2}>{t`“${{ title: handIn.title }}” was deleted.`}</Text>
      <Button label={t`Undo`} accessibilityLabel={t`Undo deleting ${{ title: handIn.title }}`} onPress={undo} />
      <Button variant="text" label={t`Close`} accessibilityLabel={t`Close this notice`} onPress={onDone} />
    </View>
  );
}
