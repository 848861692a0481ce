import ArrowUpDown from 'lucide-react-native/icons/arrow-up-down';
import Camera from 'lucide-react-native/icons/camera';
import Crop from 'lucide-react-native/icons/crop';
import Lightbulb from 'lucide-react-native/icons/lightbulb';
import RotateCw from 'lucide-react-native/icons/rotate-cw';
import Trash from 'lucide-react-native/icons/trash';
import { useRouter } from 'expo-router';
import { useState } from 'react';
import { View } from 'react-native';
import type { Finish } from '../../core/finish/applyFinish';
import { boundPages, type HandIn, type Page } from '../../core/handIn/handIn';
import { turnRecipe } from '../../core/recipe/recipe';
import { movePageBy, removePage, setFinishOnAll, setRecipe } from '../stores/handInStore';
import { Action } from './Action';
import { AddRow } from './AddRow';
import { Words } from './Words';

const FINISH_NAMES: Readonly<Record<Finish, { name: string; says: string }>> = {
  asshot: { name: 'As shot', says: 'straight, but lit as in the photo' },
  daylight: { name: 'Daylight', says: 'white paper, true colours, no shadow' },
};

interface PageToolsProps {
  readonly handIn: HandIn;
  readonly page: Page;
  readonly onEdges: () => void;
  /** All trays open, one below the other, where there is room for them. */
  readonly unfolded: boolean;
}

/** What can be done with a page: a row of verbs, each with its low tray. */
export function PageTools({ handIn, page, onEdges, unfolded }: PageToolsProps) {
  const router = useRouter();
  const [tray, setTray] = useState<'light' | 'order' | null>(null);
  const toggle = (which: 'light' | 'order'): void => setTray(tray === which ? null : which);
  return (
    <View className={`gap-2 ${unfolded ? 'flex-col-reverse' : ''}`}>
      {unfolded || tray === 'light' ? <LightTray handIn={handIn} page={page} /> : null}
      {unfolded || tray === 'order' ? <OrderTray handIn={handIn} page={page} unfolded={unfolded} /> : null}
      <View role="toolbar" aria-label="Page tools" className="flex-row border-t border-rule-faint bg-paper">
        <Action kind="verb" label="Edges" icon={Crop} onPress={onEdges} />
        {unfolded ? null : <Action kind="verb" label="Light" icon={Lightbulb} on={tray === 'light'} onPress={() => toggle('light')} />}
        <Action kind="verb" label="Turn" icon={RotateCw} spoken="Turn the page to the right" onPress={() => void setRecipe(handIn.id, page, turnRecipe(page.recipe, 1), 'the turn')} />
        {unfolded ? null : <Action kind="verb" label="Order" icon={ArrowUpDown} on={tray === 'order'} onPress={() => toggle('order')} />}
        {page.pdfPage === null ? <Action kind="verb" label="Again" icon={Camera} spoken="Shoot this page again" onPress={() => router.push(`/hand-in/${handIn.id}/shoot?again=${page.id}`)} /> : null}
        <Action kind="verb" label="Remove" icon={Trash} spoken="Remove this page" onPress={() => void removePage(handIn.id, page.id)} />
      </View>
    </View>
  );
}

function LightTray({ handIn, page }: { readonly handIn: HandIn; readonly page: Page }) {
  const { finish } = page.recipe;
  const more = boundPages(handIn).length > 1;
  return (
    <View className="gap-2 border-t border-rule-faint px-3 pt-2">
      <View role="group" aria-label="Light" className="flex-row gap-2">
        {(Object.keys(FINISH_NAMES) as Finish[]).map((each) => (
          <View key={each} className="flex-1">
            <Action label={FINISH_NAMES[each].name} spoken={`${FINISH_NAMES[each].name}: ${FINISH_NAMES[each].says}${each === finish ? ', chosen' : ''}`} on={each === finish} onPress={() => void setRecipe(handIn.id, page, { ...page.recipe, finish: each }, 'the light')} />
          </View>
        ))}
      </View>
      <Words as="soft">{`${FINISH_NAMES[finish].name}: ${FINISH_NAMES[finish].says}`}</Words>
      {more ? <Action kind="quiet" label={`Use ${FINISH_NAMES[finish].name} on every page`} onPress={() => void setFinishOnAll(handIn, finish)} /> : null}
    </View>
  );
}

function OrderTray({ handIn, page, unfolded }: { readonly handIn: HandIn; readonly page: Page; readonly unfolded: boolean }) {
  const pages = boundPages(handIn);
  const at = pages.findIndex(({ id }) => id === page.id);
  return (
    <View className="gap-2 border-t border-rule-faint pt-2">
      <View className="flex-row gap-2 px-3">
        <View className="flex-1"><Action label="Earlier" spoken="Move this page earlier" disabled={at <= 0} onPress={() => void movePageBy(handIn, page.id, -1)} /></View>
        <View className="flex-1"><Action label="Later" spoken="Move this page later" disabled={at < 0 || at === pages.length - 1} onPress={() => void movePageBy(handIn, page.id, 1)} /></View>
      </View>
      <Words as="soft" className="px-3">Put more behind this page:</Words>
      <AddRow handInId={handIn.id} afterPageId={page.id} stacked={unfolded} />
    </View>
  );
}
