import ChevronLeft from 'lucide-react-native/icons/chevron-left';
import ChevronRight from 'lucide-react-native/icons/chevron-right';
import { Redirect, useRouter } from 'expo-router';
import { View } from 'react-native';
import { boundPages, type HandIn, type Page } from '../../core/handIn/handIn';
import { Action } from '../components/Action';
import { EdgesActions } from '../components/EdgesActions';
import { HandInFrame } from '../components/HandInFrame';
import { PageFlag } from '../components/PageFlag';
import { PageTools } from '../components/PageTools';
import { PaperPicture } from '../components/PaperPicture';
import { useWide } from '../components/useWide';
import { Words } from '../components/Words';
import { EdgesEditor } from '../edges/EdgesEditor';
import { PageBench } from './PageBench';
import { useNextThing } from './useNextThing';
import { usePageEditing } from './usePageEditing';
import { withHandIn } from './withHandIn';

/** One page, large, with what can be done with it. */
export const PageScreen = withHandIn(function PageScreen({ handIn, pageId, fromShoot = false }: { readonly handIn: HandIn; readonly pageId: string; readonly fromShoot?: boolean }) {
  const wide = useWide();
  const page = boundPages(handIn).find(({ id }) => id === pageId);
  if (page === undefined) return <Redirect href={`/hand-in/${handIn.id}`} />;
  if (wide) return <PageBench handIn={handIn} page={page} />;
  return <OnePage key={page.id} handIn={handIn} page={page} fromShoot={fromShoot} />;
});

function OnePage({ handIn, page, fromShoot }: { readonly handIn: HandIn; readonly page: Page; readonly fromShoot: boolean }) {
  const router = useRouter();
  const editing = usePageEditing(handIn, page);
  const pages = boundPages(handIn);
  const at = pages.findIndex(({ id }) => id === page.id);
  const go = (by: -1 | 1): void => {
    const to = pages[at + by];
    if (to !== undefined) router.replace(`/hand-in/${handIn.id}/page/${to.id}`);
  };
  const onward = useNextThing(handIn, page, editing.editingEdges ? () => void editing.saveEdges() : null);
  const next = fromShoot && !editing.editingEdges ? { label: 'Back to the camera', onPress: () => router.replace(`/hand-in/${handIn.id}/shoot`) } : onward;
  return (
    <HandInFrame handIn={handIn} stage="pages" next={next} ownSteps={editing.editingEdges}>
      {editing.editingEdges ? (
        <>
          <EdgesEditor page={page} editing={editing} wide={false} />
          <EdgesActions editing={editing} wide={false} />
        </>
      ) : (
        <>
          <View className="flex-row items-center justify-between px-1">
            <Action kind="quiet" icon={ChevronLeft} label="Back" spoken="Page before" disabled={at === 0} onPress={() => go(-1)} />
            <View className="items-center">
              <Words as="head" className="tabular-nums">{`Page ${at + 1} of ${pages.length}`}</Words>
              <PageFlag page={page} />
            </View>
            <Action kind="quiet" icon={ChevronRight} label="On" spoken="Page after" disabled={at === pages.length - 1} onPress={() => go(1)} />
          </View>
          <View className="flex-1 px-4 pb-3">
            <PaperPicture page={page} longSidePx={1400} label={`Page ${at + 1}`} />
          </View>
          <PageTools handIn={handIn} page={page} onEdges={editing.openEdges} unfolded={false} />
        </>
      )}
    </HandInFrame>
  );
}
