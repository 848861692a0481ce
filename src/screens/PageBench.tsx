import { useRouter } from 'expo-router';
import { FlatList, ScrollView, View } from 'react-native';
import { boundPages, type HandIn, type Page } from '../../core/handIn/handIn';
import { AddRow } from '../components/AddRow';
import { EdgesActions } from '../components/EdgesActions';
import { HandInFrame } from '../components/HandInFrame';
import { IntakeList } from '../components/IntakeList';
import { PageTile } from '../components/PageTile';
import { PageFlag } from '../components/PageFlag';
import { PageTools } from '../components/PageTools';
import { Words } from '../components/Words';
import { EdgesEditor } from '../edges/EdgesEditor';
import { LitPaper } from '../light/LitPaper';
import { MendActions } from '../mend/MendActions';
import { MendEditor } from '../mend/MendEditor';
import { useNextThing } from './useNextThing';
import { usePageTools } from './usePageTools';

interface PageBenchProps {
  readonly handIn: HandIn;
  readonly page: Page;
}

/** The wide view: pages, the page, and what can be done with it, side by side. */
export function PageBench(props: PageBenchProps) {
  return <Bench key={props.page.id} {...props} />;
}

function Bench({ handIn, page }: PageBenchProps) {
  const router = useRouter();
  const { editing, mending, zoom, light, openTool } = usePageTools(handIn, page);
  const pages = boundPages(handIn);
  const at = pages.findIndex(({ id }) => id === page.id);
  const next = useNextThing(handIn, page, openTool);
  return (
    <HandInFrame handIn={handIn} stage="pages" next={next} ownSteps={openTool !== null}>
      <View className="flex-1 flex-row">
        <View className="w-[220px] border-r border-rule-faint">
          <IntakeList handInId={handIn.id} />
          <FlatList
            data={pages}
            keyExtractor={({ id }) => id}
            aria-label="Pages"
            renderItem={({ item, index }) => (
              <View className="px-6">
                <PageTile page={item} number={index + 1} count={pages.length} selected={item.id === page.id} onPress={() => router.replace(`/hand-in/${handIn.id}/page/${item.id}`)} />
              </View>
            )}
          />
          <AddRow handInId={handIn.id} stacked />
        </View>
        <View className="flex-1">
          {editing.editingEdges ? (
            <EdgesEditor page={page} editing={editing} wide />
          ) : mending.open ? (
            <MendEditor page={page} draft={mending} zoom={zoom} wide />
          ) : (
            <View className="flex-1 p-6"><LitPaper page={page} longSidePx={1600} label={`Page ${at + 1}`} light={light} /></View>
          )}
        </View>
        <View className="w-[300px] border-l border-rule-faint">
          <View className="gap-1 p-4">
            <Words as="head" className="tabular-nums">{`Page ${at + 1} of ${pages.length}`}</Words>
            <Words as="soft" numberOfLines={1}>{page.fileName}</Words>
            <PageFlag page={page} />
          </View>
          {editing.editingEdges ? (
            <EdgesActions editing={editing} wide />
          ) : mending.open ? (
            <MendActions page={page} draft={mending} zoom={zoom} wide />
          ) : (
            <ScrollView>
              <PageTools handIn={handIn} page={page} light={light} onEdges={editing.openEdges} onMend={mending.start} unfolded />
            </ScrollView>
          )}
        </View>
      </View>
    </HandInFrame>
  );
}
