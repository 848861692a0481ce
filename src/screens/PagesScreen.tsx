import { t } from '@lingui/core/macro';
import BookOpen from 'lucide-react-native/icons/book-open';
import Camera from 'lucide-react-native/icons/camera';
import ImagePlus from 'lucide-react-native/icons/image-plus';
import ListChecks from 'lucide-react-native/icons/list-checks';
import { useRouter } from 'expo-router';
import { useState } from 'react';
import { useWindowDimensions, View } from 'react-native';
import { boundPages, shownPages, type HandIn } from '../../core/work/hand-in/handIn';
import { wantsLook } from '../../core/work/recipe/recipe';
import { OrderAdvice } from '../order-advice/OrderAdvice';
import { PageBoard } from '../features/pages/PageBoard';
import { usePageSelection } from '../features/pages/usePageSelection';
import { BulkActionsBar } from '../features/pages/BulkActionsBar';
import { Button } from '../ui/Button';
import { AddRow } from '../photos/AddRow';
import { HandInFrame } from '../frame/HandInFrame';
import { IntakeList } from '../photos/IntakeList';
import { useWide } from '../ui/breakpoints';
import { Text } from '../ui/Text';
import { choosePhotos } from '../photos/choosePhotos';
import { fetchPracticePhotos } from '../photos/practicePhotos';
import { useEngine } from '../engine/useEngine';
import { EmptyState } from '../ui/EmptyState';
import { nextAction } from './nextAction';
import { nextLabel } from './nextLabel';
import { LightTable } from './LightTable';
import { withHandIn } from './withHandIn';

/** The board of pages; on a wide screen the first page lies open beside it. */
export const PagesScreen = withHandIn(function PagesScreen({ handIn }: { readonly handIn: HandIn }) {
  const router = useRouter();
  const wide = useWide();
  const columns = useWindowDimensions().width >= 700 ? 4 : 2;
  const open = (pageId: string): void => router.push(`/hand-in/${handIn.id}/page/${pageId}`);
  const { chosen, choose, toggle, press } = usePageSelection(handIn, open);
  const shown = shownPages(handIn);
  const pages = boundPages(handIn);
  const unsure = pages.find(({ recipe }) => wantsLook(recipe));
  const unsureCount = pages.filter(({ recipe }) => wantsLook(recipe)).length;
  const action = nextAction({ stage: 'pages', pages: pages.length, toLookAt: unsureCount });
  const next = {
    label: nextLabel(action),
    onPress: () => {
      if (action.does === 'shoot') router.push(`/hand-in/${handIn.id}/shoot`);
      else if (action.does === 'lookAtPages') open(unsure!.id);
      else router.replace(`/hand-in/${handIn.id}/bind?now=1`);
    },
  };
  if (wide && shown.length > 0) return <LightTable handIn={handIn} next={next} />;
  return (
    <HandInFrame handIn={handIn} stage="pages" next={next}>
      <IntakeList handInId={handIn.id} />
      {shown.length === 0 ? (
        <NoPages handInId={handIn.id} />
      ) : (
        <>
          <View className="flex-row justify-end px-2">
            <Button
              variant="text"
              icon={BookOpen}
              label={t`Read`}
              accessibilityLabel={t`Read the pages through`}
              onPress={() => router.push(`/hand-in/${handIn.id}/read`)}
            />
            <Button
              variant="text"
              icon={ListChecks}
              label={t`Choose`}
              accessibilityLabel={t`Choose pages`}
              pressed={chosen !== null}
              onPress={toggle}
            />
          </View>
          <OrderAdvice handIn={handIn} />
          <PageBoard handIn={handIn} columns={columns} chosen={chosen} onPress={press} />
          {chosen === null ? (
            <AddRow handInId={handIn.id} />
          ) : (
            <BulkActionsBar handIn={handIn} chosen={chosen} onChoose={choose} onDone={() => choose(null)} />
          )}
        </>
      )}
    </HandInFrame>
  );
});

function NoPages({ handInId }: { readonly handInId: string }) {
  const router = useRouter();
  const { api, intake } = useEngine();
  const [problem, setProblem] = useState<string | null>(null);
  const practise = (): void => {
    fetchPracticePhotos(api).then(
      (files) =>
        files.length === 0
          ? setProblem(t`There are no practice photos here. Use photos of your own.`)
          : void intake.take(handInId, files),
      () => setProblem(t`The practice photos did not come through. Use photos of your own, or try again.`),
    );
  };
  return (
    <EmptyState
      title={t`No pages yet`}
      text={t`Lay the paper on something dark, hold the phone level above it, and get all four corners in.`}
    >
      <View className="w-full gap-2 pt-4">
        <Button
          label={t`Add photos`}
          icon={ImagePlus}
          onPress={() => void choosePhotos('gallery').then((files) => intake.take(handInId, files))}
        />
        <Button
          label={t`Try the practice table`}
          icon={Camera}
          onPress={() => router.push(`/hand-in/${handInId}/shoot?practice=1`)}
        />
        <Button label={t`Try with practice photos`} onPress={practise} />
        {problem === null ? null : (
          <Text variant="small" role="alert" tone="brick" className="text-center">
            {problem}
          </Text>
        )}
      </View>
    </EmptyState>
  );
}
