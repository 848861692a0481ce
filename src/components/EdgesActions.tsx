import Copy from 'lucide-react-native/icons/copy';
import Magnet from 'lucide-react-native/icons/magnet';
import Maximize from 'lucide-react-native/icons/maximize';
import Redo2 from 'lucide-react-native/icons/redo-2';
import RotateCw from 'lucide-react-native/icons/rotate-cw-square';
import ScanSearch from 'lucide-react-native/icons/scan-search';
import Spline from 'lucide-react-native/icons/spline';
import FileCheck from 'lucide-react-native/icons/file-check';
import Undo2 from 'lucide-react-native/icons/undo-2';
import X from 'lucide-react-native/icons/x';
import { View } from 'react-native';
import { SHEETS, type Sheet } from '../../core/flatten/standardAspect';
import type { PageEditing } from '../screens/usePageEditing';
import { Action } from './Action';
import { DrawnPicture } from './DrawnPicture';
import { Words } from './Words';

const SHEET_NAMES: Readonly<Record<Sheet, { name: string; says: string }>> = {
  auto: { name: 'Auto', says: 'as the photo shows it, a standard sheet where it is near one' },
  a: { name: 'A4, A5', says: 'an A sheet' },
  letter: { name: 'Letter', says: 'a Letter sheet' },
  card: { name: 'Card', says: 'a student or bank card' },
  free: { name: 'As seen', says: 'exactly as the photo shows it' },
};

/** The verbs of the edges tool. */
export function EdgesActions({ editing, wide }: { readonly editing: PageEditing; readonly wide: boolean }) {
  const { edges } = editing;
  return (
    <View className={wide ? 'flex-1 gap-3 p-3' : 'bg-paper'}>
      <View role="toolbar" aria-label="Steps" className="flex-row">
        <Action
          kind="verb"
          icon={Undo2}
          label="Undo"
          spoken="Undo the last change of the edges"
          disabled={!edges.canUndo}
          onPress={edges.undo}
        />
        <Action
          kind="verb"
          icon={Redo2}
          label="Redo"
          spoken="Redo the change of the edges"
          disabled={!edges.canRedo}
          onPress={edges.redo}
        />
        <Action
          kind="verb"
          icon={Spline}
          label="Bend"
          spoken="Bend sides"
          on={editing.bending}
          onPress={editing.toggleBending}
        />
        <Action
          kind="verb"
          icon={Magnet}
          label="Snap"
          spoken="Snap to found edges"
          on={editing.snapping}
          disabled={editing.targets.length === 0}
          onPress={editing.toggleSnapping}
        />
        {wide ? null : (
          <Action
            kind="verb"
            icon={FileCheck}
            label="Flat"
            spoken="Flat: see the page as it will be"
            on={editing.lookingFlat}
            onPress={editing.toggleFlat}
          />
        )}
      </View>
      <View role="toolbar" aria-label="Edges" className="flex-row">
        <Action
          kind="verb"
          icon={ScanSearch}
          label={editing.finding ? 'Detecting …' : 'Detect again'}
          spoken={editing.finding ? 'Detecting …' : 'Detect again: the edges of the page'}
          disabled={editing.finding}
          onPress={() => void editing.findEdges()}
        />
        <Action kind="verb" icon={Maximize} label="Full photo" onPress={editing.takeWholePhoto} />
        <Action
          kind="verb"
          icon={RotateCw}
          label="Straighten"
          spoken="Straighten only, cut nothing"
          onPress={editing.straightenOnly}
        />
        <Action
          kind="verb"
          icon={Copy}
          label="Copy previous"
          spoken="Copy previous page’s edges"
          disabled={editing.takePageBefore === null}
          onPress={() => editing.takePageBefore?.()}
        />
        <Action
          kind="verb"
          icon={X}
          label="Cancel"
          spoken="Cancel: leave the edges as they were"
          onPress={editing.leaveEdges}
        />
      </View>
      {wide ? (
        <>
          <Words as="soft">Proportions of the paper</Words>
          <View role="group" aria-label="Proportions of the paper" className="flex-row flex-wrap gap-2">
            {SHEETS.map((sheet) => (
              <Action
                key={sheet}
                label={SHEET_NAMES[sheet].name}
                spoken={`${SHEET_NAMES[sheet].name}: ${SHEET_NAMES[sheet].says}`}
                on={sheet === edges.sheet}
                onPress={() => editing.chooseSheet(sheet)}
              />
            ))}
          </View>
          <Words as="soft">The page laid flat</Words>
          <View className="min-h-[160px] flex-1">
            {editing.flat === null ? (
              <Words as="soft">Working …</Words>
            ) : (
              <DrawnPicture
                drawn={editing.flat}
                label="The page laid flat by these edges"
                style={{ objectFit: 'contain' }}
                testID="flat-result"
              />
            )}
          </View>
        </>
      ) : (
        <>
          <Words as="soft" className="px-4">
            Proportions of the paper
          </Words>
          <View role="group" aria-label="Proportions of the paper" className="flex-row justify-between px-2">
            {SHEETS.map((sheet) => (
              <Action
                key={sheet}
                kind="quiet"
                label={SHEET_NAMES[sheet].name}
                spoken={`${SHEET_NAMES[sheet].name}: ${SHEET_NAMES[sheet].says}`}
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
