import { useState } from 'react';
import { Image, View, type LayoutChangeEvent } from 'react-native';
import type { Page } from '../../core/handIn/handIn';
import { usePagePicture } from '../pictures/usePagePicture';
import { Words } from './Words';

interface PaperPictureProps {
  readonly page: Page;
  readonly longSidePx: number;
  readonly label: string;
}

/** The page as it will be read, a sheet lying on the desk, as large as its place allows. */
export function PaperPicture({ page, longSidePx, label }: PaperPictureProps) {
  const shown = usePagePicture(page, page.recipe, longSidePx);
  const [box, setBox] = useState({ width: 0, height: 0 });
  const measure = ({ nativeEvent: { layout } }: LayoutChangeEvent): void => setBox({ width: layout.width, height: layout.height });
  if (shown.state === 'failed') {
    return (
      <View className="flex-1 items-center justify-center border border-brick bg-sheet p-2">
        <Words as="small" tone="brick" className="text-center">{shown.problem}</Words>
      </View>
    );
  }
  if (shown.state === 'working') {
    return (
      <View role="status" aria-label={`${label}, being worked on`} className="flex-1 items-center justify-center border border-rule-faint bg-sheet">
        <Words as="soft">Working …</Words>
      </View>
    );
  }
  const { url, width, height } = shown.picture;
  const scale = Math.min(box.width / width, box.height / height);
  return (
    <View className="flex-1 items-center justify-center" onLayout={measure}>
      <View className="bg-sheet shadow-sheet" style={{ width: width * scale, height: height * scale }}>
        <Image source={{ uri: url }} accessibilityLabel={label} resizeMode="contain" className="h-full w-full" />
      </View>
    </View>
  );
}
