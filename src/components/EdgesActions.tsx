import type { MessageDescriptor } from '@lingui/core';
import { msg, t } from '@lingui/core/macro';
import Copy from 'lucide-react-native/icons/copy';
import Magnet from 'lucide-react-native/icons/magnet';
import Maximize from 'lucide-react-native/icons/maximize';
import RotateCw from 'lucide-react-native/icons/rotate-cw-square';
import ScanSearch from 'lucide-react-native/icons/scan-search';
import Spline from 'lucide-react-native/icons/spline';
import FileCheck from 'lucide-react-native/icons/file-check';
import X from 'lucide-react-native/icons/x';
import { View } from 'react-native';
import { SHEETS, type Sheet } from '../../core/flatten/standardAspect';
import type { PageEditing } from '../screens/usePageEditing';
import { Action } from './Action';
import { DrawnPicture } from './DrawnPicture';
import { Words } from './Words';
import { RedoSign, UndoSign } from './directional';

const SHEET_NAMES: Readonly<Record<Sheet, { readonly name: MessageDescriptor; readonly says: MessageDescriptor }>> = {
  auto: { name: msg`Auto`, says: msg`as the photo shows it, a standard sheet where it is near one` },
  a: { name: msg`A4, A5`, says: msg`an A sheet` },
  letter: { name: msg`Letter`, says: msg`a Letter sheet` },
  card: { name: msg`Card`, says: msg`a student or bank card` },
  free: { name: msg`As seen`, says: msg`exactly as the photo shows it` },
};

/** The verbs of the edges tool. */
export function EdgesActions({ editing, wide }: { readonly editing: PageEditing; readonly wide: boolean }) {
  const { edges } = editing;
  return (
    <View className={wide ? 'flex-1 gap-3 p-3' : 'bg-paper'}>
      <View role="toolbar" aria-label={t`Steps`} className="flex-row">
        <Action
          kind="verb"
          icon={UndoSign}
          label={t`Undo`}
          spoken={t`Undo the last change of the edges`}
          disabled={!edges.canUndo}
          onPress={edges.undo}
        />
        <Action
          kind="verb"
          icon={RedoSign}
          label={t`Redo`}
          spoken={t`Redo the change of the edges`}
          disabled={!edges.canRedo}
          onPress={edges.redo}
        />
        <Action
          kind="verb"
          icon={Spline}
          label={t`Bend`}
          spoken={t`Bend sides`}
          on={editing.bending}
          onPress={editing.toggleBending}
        />
        <Action
          kind="verb"
          icon={Magnet}
          label={t`Snap`}
          spoken={t`Snap to found edges`}
          on={editing.snapping}
          disabled={editing.targets.length === 0}
          onPress={editing.toggleSnapping}
        />
        {wide ? null : (
          <Action
            kind="verb"
            icon={FileCheck}
            label={t`Flat`}
            spoken={t`Flat: see the page as it will be`}
            on={editing.lookingFlat}
            onPress={editing.toggleFlat}
          />
        )}
      </View>
      <View role="toolbar" aria-label={t`Edges`} className="flex-row">
        <Action
          kind="verb"
          icon={ScanSearch}
          label={editing.finding ? t`Detecting …` : t`Detect again`}
          spoken={editing.finding ? t`Detecting …` : t`Detect again: the edges of the page`}
          disabled={editing.finding}
          onPress={() => void editing.findEdges()}
        />
        <Action kind="verb" icon={Maximize} label={t`Full photo`} onPress={editing.takeWholePhoto} />
        <Action
          kind="verb"
          icon={RotateCw}
          label={t`Straighten`}
          spoken={t`Straighten only, cut nothing`}
          onPress={editing.straightenOnly}
        />
        <Action
          kind="verb"
          icon={Copy}
          label={t`Copy previous`}
          spoken={t`Copy previous page’s edges`}
          disabled={editing.takePageBefore === null}
          onPress={() => editing.takePageBefore?.()}
        />
        <Action
          kind="verb"
          icon={X}
          label={t`Cancel`}
          spoken={t`Cancel: leave the edges as they were`}
          onPress={editing.leaveEdges}
        />
      </View>
      {wide ? (
        <>
          <Words as="soft">{t`Proportions of the paper`}</Words>
          <View role="group" aria-label={t`Proportions of the paper`} className="flex-row flex-wrap gap-2">
            {SHEETS.map((sheet) => (
              <Action
                key={sheet}
                label={t(SHEET_NAMES[sheet].name)}
                spoken={`${t(SHEET_NAMES[sheet].name)}: ${t(SHEET_NAMES[sheet].says)}`}
                on={sheet === edges.sheet}
                onPress={() => editing.chooseSheet(sheet)}
              />
            ))}
          </View>
          <Words as="soft">{t`The page laid flat`}</Words>
          <View className="min-h-[160px] flex-1">
            {editing.flat === null ? (
              <Words as="soft">{t`Working …`}</Words>
            ) : (
              <DrawnPicture
                drawn={editing.flat}
                label={t`The page laid flat by these edges`}
                style={{ objectFit: 'contain' }}
                testID="flat-result"
              />
            )}
          </View>
        </>
      ) : (
        <>
          <Words as="soft" className="px-4">
            {t`Proportions of the paper`}
          </Words>
          <View
            role="group"
            aria-label={t`Proportions of the paper`}
            className="flex-row flex-wrap justify-between px-2"
          >
            {SHEETS.map((sheet) => (
              <Action
                key={sheet}
                kind="quiet"
                label={t(SHEET_NAMES[sheet].name)}
                spoken={`${t(SHEET_NAMES[sheet].name)}: ${t(SHEET_NAMES[sheet].says)}`}
                on={sheet === edges.sheet}
                onPress={() => editing.chooseSheet(sheet)}
              />
            ))}
          </View>
        </>
      )}
    </View>
  );
}
