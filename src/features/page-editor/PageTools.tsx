import { t } from '@lingui/core/macro';
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
import { ScrollView, View } from 'react-native';
import { shownPages, type HandIn, type Page } from '../../../core/work/hand-in/handIn';
import { CopyPicture } from './CopyPicture';
import { FillReflection, hasReflection } from './FillReflection';
import { SplitSpread } from './SplitSpread';
import { LightTool } from './light/LightTool';
import type { LightDraft } from './light/useLightDraft';
import { useEngine } from '../../engine/useEngine';
import { canCopyPictures } from '../../files/copyPicture';
import { Button } from '../../ui/Button';
import { AddRow } from '../../photos/AddRow';
import { Text } from '../../ui/Text';

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
  const shines = hasReflection(page);
  const verbs = (
    <View role="toolbar" aria-label={t`Page tools`} className={`flex-1 flex-row ${unfolded ? 'flex-wrap' : ''}`}>
      <Button variant="toolbar" label={t`Edges`} icon={Crop} shortcut="edges" onPress={onEdges} />
      {unfolded ? null : (
        <Button
          variant="toolbar"
          label={t`Light`}
          icon={Lightbulb}
          pressed={tray === 'light'}
          onPress={() => toggle('light')}
        />
      )}
      <Button
        variant="toolbar"
        label={t`Rotate`}
        icon={RotateCw}
        shortcut="rotate"
        accessibilityLabel={t`Rotate the page to the right`}
        onPress={() => void dispatch({ kind: 'turnPages', ...only, turns: 1 })}
      />
      <Button
        variant="toolbar"
        label={t`Mend`}
        icon={Eraser}
        shortcut="mend"
        accessibilityLabel={t`Mend: paint away thumbs, holes and stains`}
        onPress={onMend}
      />
      <Button
        variant="toolbar"
        label={t`Mark`}
        icon={PenLine}
        shortcut="marks"
        accessibilityLabel={t`Mark: write on the page`}
        onPress={onMark}
      />
      {unfolded ? null : (
        <Button
          variant="toolbar"
          label={t`Order`}
          icon={ArrowUpDown}
          pressed={tray === 'order'}
          onPress={() => toggle('order')}
        />
      )}
      {page.pdfPage === null ? (
        <Button
          variant="toolbar"
          label={t`Retake`}
          icon={Camera}
          accessibilityLabel={t`Retake this page`}
          onPress={() => router.push(`/hand-in/${handIn.id}/shoot?again=${page.id}`)}
        />
      ) : null}
      <Button
        variant="toolbar"
        label={t`Delete`}
        icon={Trash}
        shortcut="delete"
        accessibilityLabel={t`Delete this page`}
        onPress={() => void dispatch({ kind: 'deletePages', ...only })}
      />
    </View>
  );
  return (
    <View className="gap-2">
      {shines ? <FillReflection handIn={handIn} page={page} /> : null}
      {unfolded ? verbs : null}
      {unfolded || tray === 'light' ? (
        <LightTool handIn={handIn} page={page} draft={light} unfolded={unfolded} />
      ) : null}
      {unfolded || tray === 'order' ? <OrderTray handIn={handIn} page={page} unfolded={unfolded} /> : null}
      {unfolded ? null : (
        <ScrollView
          horizontal
          showsHorizontalScrollIndicator={false}
          className="grow-0 border-t border-rule-faint bg-paper"
          contentContainerClassName="min-w-full"
        >
          {verbs}
        </ScrollView>
      )}
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
  const aloneOnItsPhoto = !pages.some(({ id, originalId }) => id !== page.id && originalId === page.originalId);
  return (
    <View className="gap-2 border-t border-rule-faint pt-2">
      <View className="flex-row gap-2 px-3">
        <View className="flex-1">
          <Button
            label={t`Earlier`}
            accessibilityLabel={t`Earlier: move this page`}
            disabled={at <= 0}
            onPress={() => void dispatch({ kind: 'movePageBy', handInId, pageId: page.id, by: -1 })}
          />
        </View>
        <View className="flex-1">
          <Button
            label={t`Later`}
            accessibilityLabel={t`Later: move this page`}
            disabled={at < 0 || at === pages.length - 1}
            onPress={() => void dispatch({ kind: 'movePageBy', handInId, pageId: page.id, by: 1 })}
          />
        </View>
      </View>
      <View className="flex-row gap-2 px-3">
        <View className="flex-1">
          <Button
            label={page.leftOut ? t`Include` : t`Leave out`}
            accessibilityLabel={page.leftOut ? t`Include this page in the file` : t`Leave out of the file`}
            pressed={page.leftOut}
            shortcut="leaveOut"
            onPress={() =>
              void dispatch({ kind: 'leaveOutPages', handInId, pageIds: [page.id], leftOut: !page.leftOut })
            }
          />
        </View>
        <View className="flex-1">
          <Button
            label={t`Copy`}
            accessibilityLabel={t`Copy this page`}
            onPress={() => void dispatch({ kind: 'duplicatePages', handInId, pageIds: [page.id] })}
          />
        </View>
      </View>
      {page.pdfPage === null && page.recipe.kind === 'sheet' && aloneOnItsPhoto ? (
        <SplitSpread key={`split ${page.id}`} handInId={handInId} page={page} />
      ) : null}
      {page.pdfPage === null && !hasReflection(page) ? <FillReflection handIn={handIn} page={page} /> : null}
      {canCopyPictures() ? <CopyPicture key={`copy ${page.id}`} page={page} /> : null}
      <Text variant="soft" className="px-3">
        {t`Put more behind this page:`}
      </Text>
      <AddRow handInId={handInId} afterPageId={page.id} stacked={unfolded} />
    </View>
  );
}
