import { t } from '@lingui/core/macro';
import { useState, type ReactNode } from 'react';
import { Image, View, type LayoutChangeEvent } from 'react-native';
import type { Page } from '../../core/work/hand-in/handIn';
import { usePagePicture } from './usePagePicture';
import { PageMarks } from './PageMarks';
import { BitmapCanvas } from '../ui/BitmapCanvas';
import { Text } from '../ui/Text';

/** A smaller picture has no room for a word. */
const MIN_WORDS_PX = 200;

interface PaperPictureProps {
  readonly page: Page;
  readonly longSidePx: number;
  readonly label: string;
  /** The page as something that is being tried would make it: shown in its place while it is, and until the page itself has caught up. */
  readonly instead?: ImageBitmap | null;
  readonly trying?: boolean;
  /** What lies over the sheet, which is this wide on the screen. */
  readonly over?: (widthPx: number) => ReactNode;
}

/** The page as it will be read, a sheet lying on the desk, as large as its place allows. */
export function PageImage({ page, longSidePx, label, instead = null, trying = false, over }: PaperPictureProps) {
  const shown = usePagePicture(page, page.recipe, longSidePx);
  const [box, setBox] = useState({ width: 0, height: 0 });
  const measure = ({ nativeEvent: { layout } }: LayoutChangeEvent): void =>
    setBox({ width: layout.width, height: layout.height });
  const own = shown.state === 'ready' ? shown.picture : null;
  const caughtUp = shown.state === 'ready' && shown.current;
  const picture = trying || !caughtUp ? (instead ?? own) : own;
  const scale = picture === null ? 1 : Math.min(box.width / picture.width, box.height / picture.height);
  // one container for every state: a view that starts to be measured only later is never measured by react-native-web
  return (
    <View className="flex-1 items-center justify-center" onLayout={measure}>
      {picture !== null ? (
        <View
          className="bg-sheet shadow-sheet"
          style={{ width: picture.width * scale, height: picture.height * scale }}
        >
          {picture instanceof ImageBitmap ? (
            <BitmapCanvas bitmap={picture} label={label} />
          ) : (
            <Image
              source={{ uri: picture.url }}
              accessibilityLabel={label}
              resizeMode="stretch"
              className="h-full w-full"
            />
          )}
          <PageMarks marks={page.recipe.marks} width={picture.width * scale} height={picture.height * scale} />
          {over?.(picture.width * scale)}
        </View>
      ) : shown.state === 'failed' ? (
        <View className="h-full w-full items-center justify-center border border-brick bg-sheet p-2">
          <Text variant="small" tone="brick" className="text-center">
            {shown.problem}
          </Text>
        </View>
      ) : (
        <View
          role="status"
          aria-label={t`${label}, being worked on`}
          className="h-full w-full items-center justify-center border border-rule-faint bg-sheet"
        >
          {longSidePx < MIN_WORDS_PX ? null : <Text variant="soft">{t`Working …`}</Text>}
        </View>
      )}
    </View>
  );
}
