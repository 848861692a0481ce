import { t } from '@lingui/core/macro';
import { useRouter } from 'expo-router';
import { useState } from 'react';
import { ScrollView, View } from 'react-native';
import { shownPages, type HandIn, type Page } from '../../core/handIn/handIn';
import { OrderAdvice } from '../board/OrderAdvice';
import { PageBoard } from '../board/PageBoard';
import { pageHeading } from '../board/pageNumber';
import { SelectionTray } from '../board/SelectionTray';
import { Action } from '../components/Action';
import { AddRow } from '../components/AddRow';
import { EdgesActions } from '../components/EdgesActions';
import { HandInFrame } from '../components/HandInFrame';
import { IntakeList } from '../components/IntakeList';
import { PageFlag } from '../components/PageFlag';
import { PageStep } from '../components/PageStep';
import { PageTools } from '../components/PageTools';
import { useShort } from '../components/useWide';
import { Words } from '../components/Words';
import { EdgesEditor } from '../edges/EdgesEditor';
import { LitPaper } from '../light/LitPaper';
import { MarkActions } from '../marks/MarkActions';
import { MarkEditor } from '../marks/MarkEditor';
import { MendActions } from '../mend/MendActions';
import { MendEditor } from '../mend/MendEditor';
import { useEngine } from '../engine/useEngine';
import { KeySheet } from './KeySheet';
import { usePageKeys } from './usePageKeys';
import { useNextThing } from './useNextThing';
import { usePageTools } from './usePageTools';

const PAGE_LONG_SIDE_PX = 1600;

interface PageBenchProps {
  readonly handIn: HandIn;
  readonly page: Page;
  /** The screen it was opened from, to go back to. */
  readonly from?: string | undefined;
}

/** The wide view: pages, the page, and what can be done with it, side by side. */
export function PageBench(props: PageBenchProps) {
  return <Bench key={props.page.id} {...props} />;
}

function Bench({ handIn, page, from }: PageBenchProps) {
  const router = useRouter();
  const { dispatch } = useEngine();
  const only = { handInId: handIn.id, pageIds: [page.id] };
  const { editing, mending, marking, zoom, light, openTool } = usePageTools(handIn, page);
  const [chosen, setChosen] = useState<readonly string[] | null>(null);
  const at = shownPages(handIn).findIndex(({ id }) => id === page.id);
  const next = useNextThing(handIn, page, openTool, from);
  const [listing, setListing] = useState(false);
  const short = useShort();
  const step = (by: 1 | -1): void => {
    const to = shownPages(handIn)[at + by];
    if (to !== undefined) router.replace(`/hand-in/${handIn.id}/page/${to.id}`);
  };
  usePageKeys(
    {
      PageDown: () => step(1),
      PageUp: () => step(-1),
      e: editing.openEdges,
      m: mending.start,
      w: marking.start,
      t: () => void dispatch({ kind: 'turnPages', ...only, turns: 1 }),
      c: () => setChosen(chosen === null ? [] : null),
      r: () => router.push(`/hand-in/${handIn.id}/read?at=${page.id}`),
      o: () => void dispatch({ kind: 'leaveOutPages', ...only, leftOut: !page.leftOut }),
      Delete: () => void dispatch({ kind: 'deletePages', ...only }),
      '?': () => setListing(true),
    },
    openTool === null && !listing,
  );
  const tools = (
    <ScrollView>
      <View className={short ? 'gap-1 px-3 pt-2' : 'gap-1 p-4'}>
        <Words as="head" className="tabular-nums">
          {pageHeading(handIn, page.id)}
        </Words>
        <Words as="soft" numberOfLines={1}>
          {page.fileName}
        </Words>
        <PageFlag page={page} />
        {short ? (
          <View className="-mx-2 flex-row justify-between">
            <PageStep to="previous" disabled={at === 0} onPress={() => step(-1)} />
            <PageStep to="next" disabled={at === shownPages(handIn).length - 1} onPress={() => step(1)} />
          </View>
        ) : null}
        <View className={short ? 'hidden' : 'items-start'}>
          <Action kind="quiet" label={t`Keys`} spoken={t`Keys: list all of them`} onPress={() => setListing(true)} />
        </View>
      </View>
      {chosen !== null ? (
        <SelectionTray handIn={handIn} chosen={chosen} onChoose={setChosen} onDone={() => setChosen(null)} />
      ) : editing.editingEdges ? (
        <EdgesActions editing={editing} wide />
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
      aside={{ width: 'tools', content: tools }}
    >
      <View className="flex-1 flex-row">
        {short ? null : (
          <View className="w-[220px] border-e border-rule-faint">
            <IntakeList handInId={handIn.id} />
            <View className="flex-row justify-between px-1">
              <Action
                kind="quiet"
                label={t`Read`}
                spoken={t`Read the pages through`}
                onPress={() => router.push(`/hand-in/${handIn.id}/read`)}
              />
              <Action
                kind="quiet"
                label={t`Choose`}
                spoken={t`Choose pages`}
                on={chosen !== null}
                onPress={() => setChosen(chosen === null ? [] : null)}
              />
            </View>
            <OrderAdvice handIn={handIn} />
            <View className="flex-1 px-4">
              <PageBoard
                handIn={handIn}
                columns={1}
                chosen={chosen}
                openId={page.id}
                onPress={(id) =>
                  chosen === null
                    ? router.replace(`/hand-in/${handIn.id}/page/${id}`)
                    : setChosen(chosen.includes(id) ? chosen.filter((each) => each !== id) : [...chosen, id])
                }
              />
            </View>
            {chosen === null ? <AddRow handInId={handIn.id} stacked /> : null}
          </View>
        )}
        <View className="flex-1">
          {editing.editingEdges ? (
            <EdgesEditor page={page} editing={editing} wide />
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
      {listing ? <KeySheet onClose={() => setListing(false)} /> : null}
    </HandInFrame>
  );
}
