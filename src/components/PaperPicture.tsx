import { useState } from 'react';
import { Image, View, type LayoutChangeEvent } from 'react-native';
import type { Page } from '../../core/handIn/handIn';
import { usePagePicture, type PagePicture } from '../pictures/usePagePicture';
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
  // one container for every state: a view that starts to be measured only later is never measured by react-native-web
  return (
    <View className="flex-1 items-center justify-center" onLayout={measure}>
      {shown.state === 'ready' ? (
        <Sheet picture={shown.picture} scale={Math.min(box.width / shown.picture.width, box.height / shown.picture.height)} label={label} />
      ) : shown.state === 'failed' ? (
        <View className="h-full w-full items-center justify-center border border-brick bg-sheet p-2">
          <Words as="small" tone="brick" className="text-center">{shown.problem}</Words>
        </View>
      ) : (
        <View role="status" aria-label={`${label}, being worked on`} className="h-full w-full items-center justify-center border border-rule-faint bg-sheet">
          <Words as="soft">Working …</Words>
        </View>
      )}
    </View>
  );
}

function Sheet({ picture: { url, width, height }, scale, label }: { readonly picture: PagePicture; readonly scale: number; readonly label: string }) {
  return (
    <View className="bg-sheet shadow-sheet" style={{ width: width * scale, height: height * scale }}>
      <Image source={{ uri: url }} accessibilityLabel={label} resizeMode="contain" className="h-full w-full" />
    </View>
  );
}
