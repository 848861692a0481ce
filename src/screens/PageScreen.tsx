import { t } from '@lingui/core/macro';
import { Redirect, useRouter } from 'expo-router';
import { View } from 'react-native';
import { shownPages, type HandIn, type Page } from '../../core/work/hand-in/handIn';
import { pageHeading } from '../features/pages/pageNumber';
import { EdgesActions } from '../features/page-editor/edges/EdgesActions';
import { HandInFrame } from '../frame/HandInFrame';
import { PageStatus } from '../page-picture/PageStatus';
import { PageStep } from './PageStep';
import { ToolTray } from '../features/page-editor/ToolTray';
import { PageTools } from '../features/page-editor/PageTools';
import { useNarrow, useSideways } from '../ui/breakpoints';
import { Text } from '../ui/Text';
import { EdgesEditor } from '../features/page-editor/edges/EdgesEditor';
import { LitPaper } from '../features/page-editor/light/LitPaper';
import { MarkActions } from '../features/page-editor/marks/MarkActions';
import { MarkEditor } from '../features/page-editor/marks/MarkEditor';
import { MendActions } from '../features/page-editor/mend/MendActions';
import { MendEditor } from '../features/page-editor/mend/MendEditor';
import { PageWorkspace } from './PageWorkspace';
import { useNextThing } from './useNextThing';
import { usePageTools, type OpenTools } from '../features/page-editor/usePageTools';
import { withHandIn } from './withHandIn';

const PAGE_LONG_SIDE_PX = 1400;

/** One page, large, with what can be done with it. */
export const PageScreen = withHandIn(function PageScreen({
  handIn,
  pageId,
  from,
}: {
  readonly handIn: HandIn;
  readonly pageId: string;
  readonly from?: string;
}) {
  const page = shownPages(handIn).find(({ id }) => id === pageId);
  if (page === undefined) return <Redirect href={`/hand-in/${handIn.id}`} />;
  return <OpenPage key={page.id} handIn={handIn} page={page} from={from} />;
});

interface OpenPageProps {
  readonly handIn: HandIn;
  readonly page: Page;
  readonly from: string | undefined;
}

/** Holds the tools, so that what is under way stays when the screen is turned. */
function OpenPage(props: OpenPageProps) {
  const tools = usePageTools(props.handIn, props.page);
  return useSideways() ? <PageWorkspace {...props} tools={tools} /> : <OnePage {...props} tools={tools} />;
}

function OnePage({ handIn, page, from, tools }: OpenPageProps & { readonly tools: OpenTools }) {
  const router = useRouter();
  const { editing, mending, marking, zoom, light, openTool } = tools;
  const pages = shownPages(handIn);
  const at = pages.findIndex(({ id }) => id === page.id);
  const go = (by: -1 | 1): void => {
    const to = pages[at + by];
    if (to !== undefined) router.replace(`/hand-in/${handIn.id}/page/${to.id}`);
  };
  const next = useNextThing(handIn, page, openTool, from);
  const narrow = useNarrow();
  return (
    <HandInFrame handIn={handIn} stage="pages" next={next} ownSteps={openTool !== null}>
      {editing.editingEdges ? (
        <>
          <EdgesEditor page={page} editing={editing} zoom={zoom} wide={false} />
          <ToolTray>
            <EdgesActions editing={editing} zoom={zoom} wide={false} />
          </ToolTray>
        </>
      ) : mending.open ? (
        <>
          <MendEditor page={page} draft={mending} zoom={zoom} longSidePx={PAGE_LONG_SIDE_PX} wide={false} />
          <ToolTray>
            <MendActions page={page} draft={mending} zoom={zoom} wide={false} />
          </ToolTray>
        </>
      ) : marking.open ? (
        <>
          <MarkEditor page={page} draft={marking} zoom={zoom} longSidePx={PAGE_LONG_SIDE_PX} />
          <ToolTray>
            <MarkActions draft={marking} zoom={zoom} wide={false} />
          </ToolTray>
        </>
      ) : (
        <>
          <View className="flex-row flex-wrap items-center justify-between px-1">
            <PageStep to="previous" narrow={narrow} disabled={at === 0} onPress={() => go(-1)} />
            <View className="items-center">
              <Text variant="head" className="tabular-nums">
                {pageHeading(handIn, page.id)}
              </Text>
              <PageStatus page={page} />
            </View>
            <PageStep to="next" narrow={narrow} disabled={at === pages.length - 1} onPress={() => go(1)} />
          </View>
          <View className="flex-1 px-4 pb-3">
            <LitPaper page={page} longSidePx={PAGE_LONG_SIDE_PX} label={t`Page ${{ at: at + 1 }}`} light={light} />
          </View>
          <ToolTray>
            <PageTools
              handIn={handIn}
              page={page}
              light={light}
              onEdges={editing.openEdges}
              onMend={mending.start}
              onMark={marking.start}
              unfolded={false}
            />
          </ToolTray>
        </>
      )}
    </HandInFrame>
  );
}
