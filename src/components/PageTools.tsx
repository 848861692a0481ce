import ArrowUpDown from 'lucide-react-native/icons/arrow-up-down';
import Camera from 'lucide-react-native/icons/camera';
import Crop from 'lucide-react-native/icons/crop';
import Eraser from 'lucide-react-native/icons/eraser';
import Lightbulb from 'lucide-react-native/icons/lightbulb';
import PenLine from 'lucide-react-native/icons/pen-line';
import RotateCw from 'lucide-react-native/icons/rotate-cw';
import Trash from 'lucide-react-native/icons/trash';
import { useRouter } from 'expo-router';
import { useState } from 'react';
import { View } from 'react-native';
import { shownPages, type HandIn, type Page } from '../../core/handIn/handIn';
import { LightTool } from '../light/LightTool';
import type { LightDraft } from '../light/useLightDraft';
import { useEngine } from '../engine/useEngine';
import { Action } from './Action';
import { AddRow } from './AddRow';
import { Words } from './Words';

interface PageToolsProps {
  readonly handIn: HandIn;
  readonly page: Page;
  readonly light: LightDraft;
  readonly onEdges: () => void;
  readonly onMend: () => void;
  readonly onMark: () => void;
  /** All trays open, one below the other, where there is room for them. */
  readonly unfolded: boolean;
}

/** What can be done with a page: a row of verbs, each with its low tray. */
export function PageTools({ handIn, page, light, onEdges, onMend, onMark, unfolded }: PageToolsProps) {
  const router = useRouter();
  const { dispatch } = useEngine();
  const only = { handInId: handIn.id, pageIds: [page.id] };
  const [tray, setTray] = useState<'light' | 'order' | null>(null);
  const toggle = (which: 'light' | 'order'): void => setTray(tray === which ? null : which);
  const verbs = (
    <View role="toolbar" aria-label="Page tools" className="flex-row border-t border-rule-faint bg-paper">
      <Action kind="verb" label="Edges" icon={Crop} onPress={onEdges} />
      {unfolded ? null : (
        <Action kind="verb" label="Light" icon={Lightbulb} on={tray === 'light'} onPress={() => toggle('light')} />
      )}
      <Action
        kind="verb"
        label="Rotate"
        icon={RotateCw}
        spoken="Rotate the page to the right"
        onPress={() => void dispatch({ kind: 'turnPages', ...only, turns: 1 })}
      />
      <Action
        kind="verb"
        label="Mend"
        icon={Eraser}
        spoken="Mend: paint away thumbs, holes and stains"
        onPress={onMend}
      />
      <Action kind="verb" label="Mark" icon={PenLine} spoken="Mark: write on the page" onPress={onMark} />
      {unfolded ? null : (
        <Action kind="verb" label="Order" icon={ArrowUpDown} on={tray === 'order'} onPress={() => toggle('order')} />
      )}
      {page.pdfPage === null ? (
        <Action
          kind="verb"
          label="Retake"
          icon={Camera}
          spoken="Retake this page"
          onPress={() => router.push(`/hand-in/${handIn.id}/shoot?again=${page.id}`)}
        />
      ) : null}
      <Action
        kind="verb"
        label="Delete"
        icon={Trash}
        spoken="Delete this page"
        onPress={() => void dispatch({ kind: 'deletePages', ...only })}
      />
    </View>
  );
  return (
    <View className="gap-2">
      {unfolded ? verbs : null}
      {unfolded || tray === 'light' ? (
        <LightTool handIn={handIn} page={page} draft={light} unfolded={unfolded} />
      ) : null}
      {unfolded || tray === 'order' ? <OrderTray handIn={handIn} page={page} unfolded={unfolded} /> : null}
      {unfolded ? null : verbs}
    </View>
  );
}

function OrderTray({
  handIn,
  page,
  unfolded,
}: {
  readonly handIn: HandIn;
  readonly page: Page;
  readonly unfolded: boolean;
}) {
  const { dispatch } = useEngine();
  const handInId = handIn.id;
  const pages = shownPages(handIn);
  const at = pages.findIndex(({ id }) => id === page.id);
  return (
    <View className="gap-2 border-t border-rule-faint pt-2">
      <View className="flex-row gap-2 px-3">
        <View className="flex-1">
          <Action
            label="Earlier"
            spoken="Earlier: move this page"
            disabled={at <= 0}
            onPress={() => void dispatch({ kind: 'movePageBy', handInId, pageId: page.id, by: -1 })}
          />
        </View>
        <View className="flex-1">
          <Action
            label="Later"
            spoken="Later: move this page"
            disabled={at < 0 || at === pages.length - 1}
            onPress={() => void dispatch({ kind: 'movePageBy', handInId, pageId: page.id, by: 1 })}
          />
        </View>
      </View>
      <View className="flex-row gap-2 px-3">
        <View className="flex-1">
          <Action
            label={page.leftOut ? 'Include' : 'Leave out'}
            spoken={page.leftOut ? 'Include this page in the file' : 'Leave out of the file'}
            on={page.leftOut}
            onPress={() =>
              void dispatch({ kind: 'leaveOutPages', handInId, pageIds: [page.id], leftOut: !page.leftOut })
            }
          />
        </View>
        <View className="flex-1">
          <Action
            label="Copy"
            spoken="Copy this page"
            onPress={() => void dispatch({ kind: 'duplicatePages', handInId, pageIds: [page.id] })}
          />
        </View>
      </View>
      <Words as="soft" className="px-3">
        Put more behind this page:
      </Words>
      <AddRow handInId={handInId} afterPageId={page.id} stacked={unfolded} />
    </View>
  );
}
