import type { MessageDescriptor } from '@lingui/core';
import { msg, t } from '@lingui/core/macro';
import Copy from 'lucide-react-native/icons/copy';
import Magnet from 'lucide-react-native/icons/magnet';
import Maximize from 'lucide-react-native/icons/maximize';
import RotateCw from 'lucide-react-native/icons/rotate-cw-square';
import ScanSearch from 'lucide-react-native/icons/scan-search';
import Spline from 'lucide-react-native/icons/spline';
import FileCheck from 'lucide-react-native/icons/file-check';
import Grid from 'lucide-react-native/icons/grid-3x3';
import Square from 'lucide-react-native/icons/square';
import X from 'lucide-react-native/icons/x';
import { View } from 'react-native';
import { SHEETS, type Sheet } from '../../../../core/imaging/geometry/standardSheets';
import type { PageEditing } from '../usePageEditing';
import { Button } from '../../../ui/Button';
import { BitmapCanvas } from '../../../ui/BitmapCanvas';
import { ChoiceGroup } from '../../../ui/ChoiceGroup';
import { Text } from '../../../ui/Text';
import type { Zoom } from '../../../zoom/useZoom';
import { ZoomActions } from '../../../zoom/ZoomActions';
import { RedoIcon, UndoIcon } from '../../../ui/directionalIcons';

const SHEET_NAMES: Readonly<Record<Sheet, { readonly name: MessageDescriptor; readonly says: MessageDescriptor }>> = {
  auto: { name: msg`Auto`, says: msg`as the photo shows it, a standard sheet where it is near one` },
  a: { name: msg`A4, A5`, says: msg`an A sheet` },
  letter: { name: msg`Letter`, says: msg`a Letter sheet` },
  card: { name: msg`Card`, says: msg`a student or bank card` },
  free: { name: msg`As seen`, says: msg`exactly as the photo shows it` },
};

/** The verbs of the edges tool. */
export function EdgesActions({
  editing,
  zoom,
  wide,
}: {
  readonly editing: PageEditing;
  readonly zoom: Zoom;
  readonly wide: boolean;
}) {
  const { edges } = editing;
  const sheetChoices = SHEETS.map((sheet) => ({
    value: sheet,
    label: t(SHEET_NAMES[sheet].name),
    accessibilityLabel: `${t(SHEET_NAMES[sheet].name)}: ${t(SHEET_NAMES[sheet].says)}`,
  }));
  return (
    <View className={wide ? 'flex-1 gap-3 p-3' : 'bg-paper'}>
      <View role="toolbar" aria-label={t`Steps`} className="flex-row flex-wrap">
        <Button
          variant="toolbar"
          icon={UndoIcon}
          label={t`Undo`}
          accessibilityLabel={t`Undo the last change of the edges`}
          disabled={!edges.canUndo}
          onPress={edges.undo}
        />
        <Button
          variant="toolbar"
          icon={RedoIcon}
          label={t`Redo`}
          accessibilityLabel={t`Redo the change of the edges`}
          disabled={!edges.canRedo}
          onPress={edges.redo}
        />
        <Button
          variant="toolbar"
          icon={Spline}
          label={t`Bend`}
          accessibilityLabel={t`Bend sides`}
          pressed={editing.bending}
          onPress={editing.toggleBending}
        />
        <Button
          variant="toolbar"
          icon={Magnet}
          label={t`Snap`}
          accessibilityLabel={t`Snap to found edges`}
          pressed={editing.snapping}
          disabled={editing.targets.length === 0}
          onPress={editing.toggleSnapping}
        />
        <Button
          variant="toolbar"
          icon={Grid}
          label={t`Grid`}
          accessibilityLabel={t`Grid: see how the page lies`}
          pressed={editing.showingGrid}
          onPress={editing.toggleGrid}
        />
        {wide ? null : (
          <Button
            variant="toolbar"
            icon={FileCheck}
            label={t`Flat`}
            accessibilityLabel={t`Flat: see the page as it will be`}
            pressed={editing.lookingFlat}
            onPress={editing.toggleFlat}
          />
        )}
      </View>
      <View role="toolbar" aria-label={t`Edges`} className="flex-row flex-wrap">
        <Button
          variant="toolbar"
          icon={ScanSearch}
          label={editing.finding ? t`Detecting …` : t`Detect again`}
          accessibilityLabel={editing.finding ? t`Detecting …` : t`Detect again: the edges of the page`}
          disabled={editing.finding}
          onPress={() => void editing.findEdges()}
        />
        <Button variant="toolbar" icon={Maximize} label={t`Full photo`} onPress={editing.takeWholePhoto} />
        <Button
          variant="toolbar"
          icon={RotateCw}
          label={t`Straighten`}
          accessibilityLabel={t`Straighten only, cut nothing`}
          onPress={editing.straightenOnly}
        />
        <Button
          variant="toolbar"
          icon={Square}
          label={t`Straight sides`}
          accessibilityLabel={t`Straight sides: lay the page flat by its corners alone`}
          disabled={editing.straightenSides === null}
          onPress={() => editing.straightenSides?.()}
        />
        <Button
          variant="toolbar"
          icon={Copy}
          label={t`Copy previous`}
          accessibilityLabel={t`Copy previous page’s edges`}
          disabled={editing.takePageBefore === null}
          onPress={() => editing.takePageBefore?.()}
        />
      </View>
      <View className="flex-row">
        <Button
          variant="toolbar"
          icon={X}
          label={t`Cancel`}
          accessibilityLabel={t`Cancel: leave the edges as they were`}
          onPress={editing.leaveEdges}
        />
        <View className="flex-[2]">
          <ZoomActions zoom={zoom} />
        </View>
      </View>
      {wide ? (
        <>
          <Text variant="soft">{t`Proportions of the paper`}</Text>
          <ChoiceGroup
            label={t`Proportions of the paper`}
            choices={sheetChoices}
            value={edges.sheet}
            onChange={editing.chooseSheet}
          />
          <Text variant="soft">{t`The page laid flat`}</Text>
          <View className="min-h-[160px] flex-1">
            {editing.flat === null ? (
              <Text variant="soft">{t`Working …`}</Text>
            ) : (
              <BitmapCanvas
                bitmap={editing.flat}
                label={t`The page laid flat by these edges`}
                style={{ objectFit: 'contain' }}
                testID="flat-result"
              />
            )}
          </View>
        </>
      ) : (
        <>
          <Text variant="soft" className="px-4">
            {t`Proportions of the paper`}
          </Text>
          <ChoiceGroup
            label={t`Proportions of the paper`}
            variant="text"
            choices={sheetChoices}
            value={edges.sheet}
            onChange={editing.chooseSheet}
            className="flex-row flex-wrap justify-between px-2"
          />
        </>
      )}
    </View>
  );
}
