import { Image, View } from 'react-native';
import type { Page } from '../../core/handIn/handIn';
import { usePagePicture } from '../pictures/usePagePicture';
import { Words } from './Words';

interface PaperPictureProps {
  readonly page: Page;
  readonly longSidePx: number;
  readonly label: string;
}

/** The page as it will be read, a sheet lying on the desk. */
export function PaperPicture({ page, longSidePx, label }: PaperPictureProps) {
  const shown = usePagePicture(page, page.recipe, longSidePx);
  if (shown.state === 'failed') {
    return (
      <View className="flex-1 items-center justify-center border border-brick bg-sheet p-2">
        <Words as="small" className="text-center text-brick">{shown.problem}</Words>
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
  return (
    <View className="flex-1 items-center justify-center">
      <View className="max-h-full max-w-full bg-sheet shadow-sheet" style={{ aspectRatio: width / height, [width / height > 0.75 ? 'width' : 'height']: '100%' }}>
        <Image source={{ uri: url }} accessibilityLabel={label} resizeMode="contain" className="h-full w-full" />
      </View>
    </View>
  );
}
