import Redo2 from 'lucide-react-native/icons/redo-2';
import Trash from 'lucide-react-native/icons/trash';
import Undo2 from 'lucide-react-native/icons/undo-2';
import X from 'lucide-react-native/icons/x';
import { View } from 'react-native';
import { Action } from './Action';

interface Draft {
  readonly canUndo: boolean;
  readonly canRedo: boolean;
  readonly undo: () => void;
  readonly redo: () => void;
  readonly clear: () => void;
  readonly leave: () => void;
}

/** The steps of something that is being drawn on a page and not kept yet. */
export function DraftActions({
  draft,
  one,
  all,
  isEmpty,
}: {
  readonly draft: Draft;
  /** What a step is, and what all of it is, in words. */
  readonly one: string;
  readonly all: string;
  readonly isEmpty: boolean;
}) {
  return (
    <View role="toolbar" aria-label="Steps" className="flex-row">
      <Action
        kind="verb"
        icon={Undo2}
        label="Undo"
        spoken={`Undo the last ${one}`}
        disabled={!draft.canUndo}
        onPress={draft.undo}
      />
      <Action
        kind="verb"
        icon={Redo2}
        label="Redo"
        spoken={`Redo the ${one}`}
        disabled={!draft.canRedo}
        onPress={draft.redo}
      />
      <Action
        kind="verb"
        icon={Trash}
        label="Clear"
        spoken={`Clear all ${all} on this page`}
        disabled={isEmpty}
        onPress={draft.clear}
      />
      <Action
        kind="verb"
        icon={X}
        label="Cancel"
        spoken={`Cancel: leave the ${all} as they were`}
        onPress={draft.leave}
      />
    </View>
  );
}
