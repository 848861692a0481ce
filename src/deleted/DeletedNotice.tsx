import { t } from '@lingui/core/macro';
import { View } from 'react-native';
import type { HandIn } from '../../core/handIn/handIn';
import { Action } from '../components/Action';
import { Words } from '../components/Words';
import { useEngine } from '../engine/useEngine';

/** Says what was just deleted, with the way back. */
export function DeletedNotice({ handIn, onDone }: { readonly handIn: HandIn; readonly onDone: () => void }) {
  const { dispatch } = useEngine();
  const undo = (): void => void dispatch({ kind: 'restoreHandIn', handInId: handIn.id }).then(onDone);
  return (
    <View role="status" className="flex-row items-center gap-2 border-t border-rule-faint bg-sheet py-1 ps-4 pe-2">
      <Words className="flex-1" numberOfLines={2}>{t`“${{ title: handIn.title }}” was deleted.`}</Words>
      <Action label={t`Undo`} spoken={t`Undo deleting ${{ title: handIn.title }}`} onPress={undo} />
      <Action kind="quiet" label={t`Close`} spoken={t`Close this notice`} onPress={onDone} />
    </View>
  );
}
