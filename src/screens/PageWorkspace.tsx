import { t } from '@lingui/core/macro';
import { useRouter } from 'expo-router';
import { useState } from 'react';
import { ScrollView, View } from 'react-native';
import { shownPages, type HandIn, type Page } from '../../core/work/hand-in/handIn';
import { OrderAdvice } from '../order-advice/OrderAdvice';
import { PageBoard } from '../features/pages/PageBoard';
import { usePageSelection } from '../features/pages/usePageSelection';
import { pageHeading } from '../features/pages/pageNumber';
import { BulkActionsBar } from '../features/pages/BulkActionsBar';
import { Button } from '../ui/Button';
import { AddRow } from '../photos/AddRow';
import { EdgesActions } from '../features/page-editor/edges/EdgesActions';
import { HandInFrame } from '../frame/HandInFrame';
import { IntakeList } from '../photos/IntakeList';
import { PageStatus } from '../page-picture/PageStatus';
import { PageStep } from './PageStep';
import { PageTools } from '../features/page-editor/PageTools';
import { useShort } from '../ui/breakpoints';
import { Text } from '../ui/Text';
import { EdgesEditor } from '../features/page-editor/edges/EdgesEditor';
import { LitPaper } from '../features/page-editor/light/LitPaper';
import { MarkActions } from '../features/page-editor/marks/MarkActions';
import { MarkEditor } from '../features/page-editor/marks/MarkEditor';
import { MendActions } from '../features/page-editor/mend/MendActions';
import { MendEditor } from '../features/page-editor/mend/MendEditor';
import { useEngine } from '../engine/useEngine';
import { ShortcutsDialog } from './ShortcutsDialog';
import { useKeys } from '../ui/useKeys';
import { useNextThing } from './useNextThing';
import type { OpenTools } from '../features/page-editor/usePageTools';

const PAGE_LONG_SIDE_PX = 1600;

interface PageWorkspaceProps {
  readonly handIn: HandIn;
  readonly page: Page;
  /** The screen it was opened from, to go back to. */
  readonly from: string | undefined;
  readonly tools: OpenTools;
}

/** The wide view: pages, the page, and what can be done with it, side by side. */
export function PageWorkspace({ handIn, page, from, tools }: PageWorkspaceProps) {
  const router = useRouter();
  const { dispatch } = useEngine();
  const only = { handInId: handIn.id, pageIds: [page.id] };
  const { editing, mending, marking, zoom, light, openTool } = tools;
  const { chosen, choose, toggle, press } = usePageSelection(handIn, (id) =>
    router.replace(`/hand-in/${handIn.id}/page/${id}`),
  );
  const at = shownPages(handIn).findIndex(({ id }) => id === page.id);
  const next = useNextThing(handIn, page, openTool, from);
  const [listing, setListing] = useState(false);
  const short = useShort();
  const step = (by: 1 | -1): void => {
    const to = shownPages(handIn)[at + by];
    if (to !== undefined) router.replace(`/hand-in/${handIn.id}/page/${to.id}`);
  };
  useKeys(
    {
      PageDown: () => step(1),
      PageUp: () => step(-1),
      e: editing.openEdges,
      m: mending.start,
      w: marking.start,
      t: () => void dispatch({ kind: 'turnPages', ...only, turns: 1 }),
      c: toggle,
      r: () => router.push(`/hand-in/${handIn.id}/read?at=${page.id}`),
      o: () => void dispatch({ kind: 'leaveOutPages', ...only, leftOut: !page.leftOut }),
      Delete: () => void dispatch({ kind: 'deletePages', ...only }),
      '?': () => setListing(true),
    },
    openTool === null && !listing,
  );
  const beside = (
    <ScrollView>
      <View className={short ? 'gap-1 px-3 pt-2' : 'gap-1 p-4'}>
        <Text variant="head" className="tabular-nums">
          {pageHeading(handIn, page.id)}
        </Text>
        <Text variant="soft" numberOfLines={1}>
          {page.fileName}
        </Text>
        <PageStatus page={page} />
        {short && openTool === null ? (
          <View className="-mx-2 flex-row justify-between">
            <PageStep to="previous" disabled={at === 0} onPress={() => step(-1)} />
            <PageStep to="next" disabled={at === shownPages(handIn).length - 1} onPress={() => step(1)} />
          </View>
        ) : null}
        <View className={short ? 'hidden' : 'items-start'}>
          <Button
            variant="text"
            label={t`Keys`}
            shortcut="list"
            accessibilityLabel={t`Keys: list all of them`}
            onPress={() => setListing(true)}
          />
        </View>
      </View>
      {chosen !== null ? (
        <BulkActionsBar handIn={handIn} chosen={chosen} onChoose={choose} onDone={() => choose(null)} />
      ) : editing.editingEdges ? (
        <EdgesActions editing={editing} zoom={zoom} wide />
      ) : mending.open ? (
        <MendActions page={page} draft={mending} zoom={zoom} wide />
      ) : marking.open ? (
        <MarkActions draft={marking} zoom={zoom} wide />
      ) : (
        <PageTools
          handIn={handIn}
          page={page}
          light={light}
          onEdges={editing.openEdges}
          onMend={mending.start}
          onMark={marking.start}
          unfolded
        />
      )}
    </ScrollView>
  );
  return (
    <HandInFrame
      handIn={handIn}
      stage="pages"
      next={next}
      ownSteps={openTool !== null}
      aside={{ width: 'tools', content: beside }}
    >
      <View className="flex-1 flex-row">
        {short ? null : (
          <View className="w-[220px] border-e border-rule-faint">
            <IntakeList handInId={handIn.id} />
            <View className="flex-row justify-between px-1">
              <Button
                variant="text"
                label={t`Read`}
                shortcut="read"
                accessibilityLabel={t`Read the pages through`}
                onPress={() => router.push(`/hand-in/${handIn.id}/read`)}
              />
              <Button
                variant="text"
                label={t`Choose`}
                shortcut="choose"
                accessibilityLabel={t`Choose pages`}
                pressed={chosen !== null}
                onPress={toggle}
              />
            </View>
            <OrderAdvice handIn={handIn} />
            <View className="flex-1 px-4">
              <PageBoard handIn={handIn} columns={1} chosen={chosen} openId={page.id} onPress={press} />
            </View>
            {chosen === null ? <AddRow handInId={handIn.id} stacked /> : null}
          </View>
        )}
        <View className="flex-1">
          {editing.editingEdges ? (
            <EdgesEditor page={page} editing={editing} zoom={zoom} wide />
          ) : mending.open ? (
            <MendEditor page={page} draft={mending} zoom={zoom} longSidePx={PAGE_LONG_SIDE_PX} wide />
          ) : marking.open ? (
            <MarkEditor page={page} draft={marking} zoom={zoom} longSidePx={PAGE_LONG_SIDE_PX} />
          ) : (
            <View className={short ? 'flex-1 p-2' : 'flex-1 p-6'}>
              <LitPaper page={page} longSidePx={PAGE_LONG_SIDE_PX} label={t`Page ${{ at: at + 1 }}`} light={light} />
            </View>
          )}
        </View>
      </View>
      {listing ? <ShortcutsDialog onClose={() => setListing(false)} /> : null}
    </HandInFrame>
  );
}
