import { plural, t } from '@lingui/core/macro';
import CircleCheck from 'lucide-react-native/icons/circle-check';
import Pencil from 'lucide-react-native/icons/pencil';
import Search from 'lucide-react-native/icons/search';
import ZoomIn from 'lucide-react-native/icons/zoom-in';
import ZoomOut from 'lucide-react-native/icons/zoom-out';
import { useRouter } from 'expo-router';
import { useState } from 'react';
import { View } from 'react-native';
import { boundPages, type HandIn } from '../../core/work/hand-in/handIn';
import { pageConcern } from '../page-picture/pageConcern';
import { PrimaryBar } from '../ui/PrimaryBar';
import { Text } from '../ui/Text';
import { useZoom } from '../zoom/useZoom';
import { MarksShown } from '../page-picture/PageMarks';
import { FindBar } from '../features/read-through/FindBar';
import { ReadPaper } from '../features/read-through/ReadPaper';
import { Button } from '../ui/Button';
import { useStore } from 'zustand';
import { useEngine } from '../engine/useEngine';
import { findWords } from '../features/read-through/findWords';
import { EmptyState } from '../ui/EmptyState';
import { useKeys } from '../ui/useKeys';
import { withHandIn } from './withHandIn';
import { BackIcon, NextIcon, PreviousIcon } from '../ui/directionalIcons';

/** The pages one by one as their reader will see them, ticked off as they are seen. */
export const ReadScreen = withHandIn(function ReadScreen({
  handIn,
  startId,
}: {
  readonly handIn: HandIn;
  readonly startId?: string;
}) {
  const router = useRouter();
  const pages = boundPages(handIn);
  const [sought, setSought] = useState<string | null>(null);
  const [currentId, setCurrentId] = useState(startId ?? pages[0]?.id ?? '');
  const at = Math.max(
    0,
    pages.findIndex(({ id }) => id === currentId),
  );
  const page = pages[at];
  if (page === undefined)
    return (
      <EmptyState
        title={t`Nothing to read yet`}
        text={t`Every page is left out, or there is none. Go back and add pages.`}
      />
    );
  const go = (by: number): void => {
    const to = pages[at + by];
    if (to !== undefined) setCurrentId(to.id);
  };
  return (
    <MarksShown.Provider value={handIn.binding.showMarks}>
      <Reading
        key={page.id}
        handIn={handIn}
        page={page}
        at={at}
        count={pages.length}
        onGo={go}
        onClose={() => router.replace(`/hand-in/${handIn.id}`)}
        onMend={() => router.push(`/hand-in/${handIn.id}/page/${page.id}?from=read`)}
        onBind={() => router.replace(`/hand-in/${handIn.id}/bind?now=1`)}
        sought={sought}
        onSeek={setSought}
        onGoTo={setCurrentId}
      />
    </MarksShown.Provider>
  );
});

interface ReadingProps {
  readonly handIn: HandIn;
  readonly page: HandIn['pages'][number];
  readonly at: number;
  readonly count: number;
  readonly onGo: (by: number) => void;
  readonly onClose: () => void;
  readonly onMend: () => void;
  readonly onBind: () => void;
  /** Null while nothing is looked for. */
  readonly sought: string | null;
  readonly onSeek: (sought: string | null) => void;
  readonly onGoTo: (pageId: string) => void;
}

function Reading({ handIn, page, at, count, onGo, onClose, onMend, onBind, sought, onSeek, onGoTo }: ReadingProps) {
  const engine = useEngine();
  const zoom = useZoom();
  const concern = pageConcern(page);
  const seen = useStore(engine.seen.state, (s) => s.seen);
  const left = boundPages(handIn).filter((each) => !seen.includes(each.id)).length;
  const words = useStore(engine.words.state, (s) => s.words);
  const found =
    sought === null ? [] : (findWords(handIn, sought, words).find(({ pageId }) => pageId === page.id)?.words ?? []);
  const isSeen = seen.includes(page.id);
  // the arrow that points on in the direction of reading
  const towardsEnd = document.documentElement.dir === 'rtl' ? -1 : 1;
  useKeys(
    {
      ArrowRight: () => onGo(towardsEnd),
      PageDown: () => onGo(1),
      ArrowLeft: () => onGo(-towardsEnd),
      PageUp: () => onGo(-1),
      f: () => onSeek(''),
      Escape: sought === null ? onClose : () => onSeek(null),
    },
    true,
  );
  const next = (): void => {
    void engine.seen.mark(page.id);
    if (at + 1 < count) onGo(1);
    else onBind();
  };
  return (
    <View className="flex-1 bg-night">
      <View role="banner" className="min-h-[56px] flex-row items-center gap-2 px-2 py-1">
        <Button
          variant="onDark"
          icon={BackIcon}
          label={t`Pages`}
          accessibilityLabel={t`Pages: back to all of them`}
          onPress={onClose}
        />
        <View className="flex-1 items-center">
          <Text
            variant="head"
            aria-level={1}
            tone="chalk"
            className="tabular-nums"
          >{t`${{ place: at + 1 }} of ${count}`}</Text>
          <Text variant="small" tone={concern === null ? 'chalk' : 'beetLight'}>
            {concern ?? (isSeen ? t`seen` : plural(left, { one: '# page left', other: '# pages left' }))}
          </Text>
        </View>
        <Button
          variant="onDark"
          icon={Search}
          label={t`Find`}
          accessibilityLabel={t`Find words on the pages`}
          onPress={() => onSeek('')}
        />
        <Button
          variant="onDark"
          icon={Pencil}
          label={concern === null ? t`Change` : t`Fix`}
          accessibilityLabel={concern === null ? t`Change this page` : t`Fix this page: ${concern}`}
          onPress={onMend}
        />
      </View>
      {sought === null ? null : (
        <FindBar
          handIn={handIn}
          pageId={page.id}
          sought={sought}
          onSeek={onSeek}
          onGo={onGoTo}
          onClose={() => onSeek(null)}
        />
      )}
      <View role="main" className="flex-1">
        <ReadPaper
          page={page}
          label={t`Page ${{ at: at + 1 }} as it will be read`}
          zoom={zoom}
          onSwipe={onGo}
          found={found}
        />
      </View>
      <View role="toolbar" aria-label={t`Reading`} className="flex-row items-center justify-between px-2">
        <Button
          variant="onDark"
          icon={PreviousIcon}
          label={t`Previous`}
          accessibilityLabel={t`Previous page`}
          disabled={at === 0}
          onPress={() => onGo(-1)}
        />
        <Button
          variant="onDark"
          icon={ZoomOut}
          label=""
          accessibilityLabel={t`Zoom out`}
          disabled={zoom.factor === 1}
          onPress={() => zoom.by(1 / 1.6)}
        />
        <View className="w-[64px] items-center">
          <Text
            variant="small"
            tone="chalk"
            aria-live="polite"
            className="tabular-nums"
          >{`${Math.round(zoom.factor * 100)} %`}</Text>
        </View>
        <Button
          variant="onDark"
          icon={ZoomIn}
          label=""
          accessibilityLabel={t`Zoom in`}
          disabled={zoom.factor >= 4}
          onPress={() => zoom.by(1.6)}
        />
        <Button
          variant="onDark"
          icon={NextIcon}
          label={t`Next`}
          accessibilityLabel={t`Next page`}
          disabled={at === count - 1}
          onPress={() => onGo(1)}
        />
      </View>
      <PrimaryBar
        label={
          at + 1 < count ? t`Seen, next page` : plural(count, { one: 'Seen, bind # page', other: 'Seen, bind # pages' })
        }
        onPress={next}
      />
      {isSeen ? (
        <View aria-hidden className="pointer-events-none absolute end-3 top-16">
          <CircleCheck size={22} color="rgb(242 141 184)" />
        </View>
      ) : null}
    </View>
  );
}
