import Settings from 'lucide-react-native/icons/settings';
import { Link, useRouter } from 'expo-router';
import { Pressable, ScrollView, View } from 'react-native';
import { boundPages, type HandIn } from '../../core/handIn/handIn';
import { wantsLook } from '../../core/recipe/recipe';
import { Action } from '../components/Action';
import { Flag } from '../components/Flag';
import { NextBar } from '../components/NextBar';
import { PaperPicture } from '../components/PaperPicture';
import { SafeMark } from '../components/SafeMark';
import { Words } from '../components/Words';
import { workingTitle } from '../format/workingTitle';
import { DueList } from '../office/DueList';
import { loadHandIns, useHandInStore } from '../stores/handInStore';
import { createHandIn } from '../stores/pageActions';
import { Message } from './Message';

/** All hand-ins as little stacks, latest work first. */
export function DeskScreen() {
  const router = useRouter();
  const handIns = useHandInStore((s) => s.handIns);
  const loading = useHandInStore((s) => s.loading);
  const problem = useHandInStore((s) => s.loadProblem);
  const shown = Object.values(handIns).filter((handIn) => !handIn.removed).sort((a, b) => b.changedAtMs - a.changedAtMs);
  const start = (): void => void createHandIn(workingTitle(new Date(), shown.map(({ title }) => title))).then((id) => router.push(`/hand-in/${id}`));
  return (
    <View className="flex-1 bg-paper">
      <View role="banner" className="border-b border-rule-faint px-4 py-3">
        <View className="flex-row items-center justify-between">
          <Words as="title">Fotoplan</Words>
          <Action kind="quiet" label="Settings" icon={Settings} onPress={() => router.push('/settings')} />
        </View>
        <SafeMark />
      </View>
      <View role="main" className="flex-1">
        {loading === 'failed' ? (
          <Message title="The desk cannot be laid out" text={problem ?? ''}>
            <Action label="Try again" onPress={() => void loadHandIns()} />
          </Message>
        ) : shown.length === 0 && loading === 'loading' ? (
          <Message title="Laying out the desk" text="Your hand-ins are on their way." />
        ) : shown.length === 0 ? (
          <Message title="The desk is empty" text="Photograph the pages of one piece of work, and Fotoplan makes them into one PDF: straight, white and in order." />
        ) : (
          <ScrollView contentContainerClassName="mx-auto w-full max-w-[1100px] p-2">
            <DueList handIns={shown} />
            <View role="list" aria-label="Hand-ins" className="flex-row flex-wrap">
              {shown.map((handIn) => (
                <View key={handIn.id} role="listitem" className="w-full p-2 md:w-1/2 lg:w-1/3">
                  <Stack handIn={handIn} />
                </View>
              ))}
            </View>
          </ScrollView>
        )}
      </View>
      <NextBar label="Start a new hand-in" onPress={start} />
    </View>
  );
}

const MOST_SHEETS_DRAWN = 8;

/** A hand-in as a stack of paper, as thick as it has pages. */
function Stack({ handIn }: { readonly handIn: HandIn }) {
  const pages = boundPages(handIn);
  const unsure = pages.filter(({ recipe }) => wantsLook(recipe)).length;
  const count = pages.length === 1 ? '1 page' : `${pages.length} pages`;
  const first = pages[0];
  return (
    <Link href={`/hand-in/${handIn.id}`} asChild>
      <Pressable aria-label={`${handIn.title}, ${count}`} className="flex-row gap-4 rounded border border-rule-faint bg-sheet p-3 active:bg-beet-tint">
        <View className="h-[112px] w-[84px]" aria-hidden>
          {Array.from({ length: Math.min(MOST_SHEETS_DRAWN, Math.max(0, pages.length - 1)) }, (_, i) => (
            <View key={i} className="absolute h-full w-full border border-rule-faint bg-paper" style={{ left: (i + 1) * 2, top: (i + 1) * 2, zIndex: -i }} />
          ))}
          {first === undefined ? (
            <View className="h-full w-full border border-dashed border-rule" />
          ) : (
            <PaperPicture page={first} longSidePx={360} label="" />
          )}
        </View>
        <View className="flex-1 justify-center gap-1">
          <Words as="head" numberOfLines={2}>{handIn.title}</Words>
          <Words as="small" className="tabular-nums">{count}</Words>
          {pages.length === 0 ? <Words as="soft">needs photos</Words> : unsure > 0 ? <Flag kind="look">{unsure === 1 ? '1 page to look at' : `${unsure} pages to look at`}</Flag> : <Flag kind="fine">edges found</Flag>}
        </View>
      </Pressable>
    </Link>
  );
}
