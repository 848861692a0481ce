import { t } from '@lingui/core/macro';
import Trash from 'lucide-react-native/icons/trash';
import X from 'lucide-react-native/icons/x';
import { View } from 'react-native';
import { Button } from '../../ui/Button';
import { RedoIcon, UndoIcon } from '../../ui/directionalIcons';

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
    <View role="toolbar" aria-label={t`Steps`} className="flex-row flex-wrap">
      <Button
        variant="toolbar"
        icon={UndoIcon}
        label={t`Undo`}
        accessibilityLabel={of === 'marks' ? t`Undo the last mark` : t`Undo the last stroke`}
        disabled={!draft.canUndo}
        onPress={draft.undo}
      />
      <Button
        variant="toolbar"
        icon={RedoIcon}
        label={t`Redo`}
        accessibilityLabel={of === 'marks' ? t`Redo the mark` : t`Redo the stroke`}
        disabled={!draft.canRedo}
        onPress={draft.redo}
      />
      <Button
        variant="toolbar"
        icon={Trash}
        label={t`Clear`}
        accessibilityLabel={of === 'marks' ? t`Clear all marks on this page` : t`Clear all mends on this page`}
        disabled={isEmpty}
        onPress={draft.clear}
      />
      <Button
        variant="toolbar"
        icon={X}
        label={t`Cancel`}
        accessibilityLabel={
          of === 'marks' ? t`Cancel: leave the marks as they were` : t`Cancel: leave the mends as they were`
        }
        onPress={draft.leave}
      />
    </View>
  );
}
