import { t } from '@lingui/core/macro';
import Trash from 'lucide-react-native/icons/trash';
import X from 'lucide-react-native/icons/x';
import { View } from 'react-native';
import { Action } from './Action';
import { RedoSign, UndoSign } from './directional';

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
  of,
  isEmpty,
}: {
  readonly draft: Draft;
  readonly of: 'marks' | 'mends';
  readonly isEmpty: boolean;
}) {
  return (
    <View role="toolbar" aria-label={t`Steps`} className="flex-row">
      <Action
        kind="verb"
        icon={UndoSign}
        label={t`Undo`}
        spoken={of === 'marks' ? t`Undo the last mark` : t`Undo the last stroke`}
        disabled={!draft.canUndo}
        onPress={draft.undo}
      />
      <Action
        kind="verb"
        icon={RedoSign}
        label={t`Redo`}
        spoken={of === 'marks' ? t`Redo the mark` : t`Redo the stroke`}
        disabled={!draft.canRedo}
        onPress={draft.redo}
      />
      <Action
        kind="verb"
        icon={Trash}
        label={t`Clear`}
        spoken={of === 'marks' ? t`Clear all marks on this page` : t`Clear all mends on this page`}
        disabled={isEmpty}
        onPress={draft.clear}
      />
      <Action
        kind="verb"
        icon={X}
        label={t`Cancel`}
        spoken={of === 'marks' ? t`Cancel: leave the marks as they were` : t`Cancel: leave the mends as they were`}
        onPress={draft.leave}
      />
    </View>
  );
}
