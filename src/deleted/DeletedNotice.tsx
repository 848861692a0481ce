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
    <View role="status" className="flex-row items-center gap-2 border-t border-rule-faint bg-sheet py-1 pl-4 pr-2">
      <Words className="flex-1" numberOfLines={2}>{`“${handIn.title}” was deleted.`}</Words>
      <Action label="Undo" spoken={`Undo deleting ${handIn.title}`} onPress={undo} />
      <Action kind="quiet" label="Close" spoken="Close this notice" onPress={onDone} />
    </View>
  );
}
