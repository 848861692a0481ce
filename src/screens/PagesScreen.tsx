import Camera from 'lucide-react-native/icons/camera';
import ImagePlus from 'lucide-react-native/icons/image-plus';
import { useRouter } from 'expo-router';
import { useState } from 'react';
import { FlatList, useWindowDimensions, View } from 'react-native';
import { boundPages, type HandIn } from '../../core/handIn/handIn';
import { wantsLook } from '../../core/recipe/recipe';
import { Action } from '../components/Action';
import { AddRow } from '../components/AddRow';
import { HandInFrame } from '../components/HandInFrame';
import { IntakeList } from '../components/IntakeList';
import { PageTile } from '../components/PageTile';
import { useWide } from '../components/useWide';
import { Words } from '../components/Words';
import { choosePhotos } from '../photos/choosePhotos';
import { fetchPracticePhotos } from '../photos/practicePhotos';
import { takeIn } from '../stores/intakeStore';
import { Message } from './Message';
import { PageBench } from './PageBench';
import { withHandIn } from './withHandIn';

/** The board of pages; on a wide screen the first page lies open beside it. */
export const PagesScreen = withHandIn(function PagesScreen({ handIn }: { readonly handIn: HandIn }) {
  const router = useRouter();
  const wide = useWide();
  const pages = boundPages(handIn);
  const unsure = pages.find(({ recipe }) => wantsLook(recipe));
  const unsureCount = pages.filter(({ recipe }) => wantsLook(recipe)).length;
  if (wide && pages[0] !== undefined) return <PageBench handIn={handIn} page={pages[0]} />;
  const open = (pageId: string): void => router.push(`/hand-in/${handIn.id}/page/${pageId}`);
  const next =
    pages.length === 0
      ? { label: 'Shoot pages', onPress: () => router.push(`/hand-in/${handIn.id}/shoot`) }
      : unsure !== undefined
        ? { label: unsureCount === 1 ? 'Look at 1 page' : `Look at ${unsureCount} pages`, onPress: () => open(unsure.id) }
        : { label: pages.length === 1 ? 'Bind 1 page' : `Bind ${pages.length} pages`, onPress: () => router.replace(`/hand-in/${handIn.id}/bind`) };
  return (
    <HandInFrame handIn={handIn} stage="pages" next={next}>
      <IntakeList handInId={handIn.id} />
      {pages.length === 0 ? <NoPages handInId={handIn.id} /> : <PageBoard handIn={handIn} onOpen={open} />}
      {pages.length === 0 ? null : <AddRow handInId={handIn.id} />}
    </HandInFrame>
  );
});

function PageBoard({ handIn, onOpen }: { readonly handIn: HandIn; readonly onOpen: (pageId: string) => void }) {
  const pages = boundPages(handIn);
  const columns = useWindowDimensions().width >= 700 ? 4 : 2;
  return (
    <FlatList
      key={columns}
      data={pages}
      numColumns={columns}
      keyExtractor={(page) => page.id}
      contentContainerClassName="p-2"
      aria-label="Pages"
      renderItem={({ item, index }) => (
        <View style={{ width: `${100 / columns}%` }}>
          <PageTile page={item} number={index + 1} count={pages.length} selected={false} onPress={() => onOpen(item.id)} />
        </View>
      )}
    />
  );
}

function NoPages({ handInId }: { readonly handInId: string }) {
  const router = useRouter();
  const [problem, setProblem] = useState<string | null>(null);
  const practise = (): void => {
    fetchPracticePhotos().then(
      (files) => (files.length === 0 ? setProblem('There are no practice photos here. Use photos of your own.') : void takeIn(handInId, files)),
      () => setProblem('The practice photos did not come through. Use photos of your own, or try again.'),
    );
  };
  return (
    <Message title="No pages yet" text="Lay the paper on something dark, hold the phone level above it, and get all four corners in.">
      <View className="w-full gap-2 pt-4">
        <Action label="Add photos" icon={ImagePlus} onPress={() => void choosePhotos('gallery').then((files) => takeIn(handInId, files))} />
        <Action label="Try the practice table" icon={Camera} onPress={() => router.push(`/hand-in/${handInId}/shoot?practice=1`)} />
        <Action label="Try with practice photos" onPress={practise} />
        {problem === null ? null : <Words as="small" role="alert" tone="brick" className="text-center">{problem}</Words>}
      </View>
    </Message>
  );
}
