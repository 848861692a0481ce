import { Pressable, View } from 'react-native';
import type { Page } from '../../core/handIn/handIn';
import { useShotFindings } from '../stores/findStore';
import { CropMarks } from './CropMarks';
import { pageConcern } from './pageConcern';
import { PageFlag } from './PageFlag';
import { PaperPicture } from './PaperPicture';
import { Words } from './Words';

const TURNED = ['', ', turned right', ', upside down', ', turned left'] as const;

interface PageTileProps {
  readonly page: Page;
  readonly number: number;
  readonly count: number;
  readonly selected: boolean;
  readonly onPress: () => void;
}

/** A page as on a contact sheet: its picture, its number under it, and a flag where something wants a look. */
export function PageTile({ page, number, count, selected, onPress }: PageTileProps) {
  const concern = pageConcern(page, useShotFindings(page));
  const spoken = `Page ${number} of ${count}${TURNED[page.recipe.quarterTurns]}${concern === null ? '' : `, ${concern}`}`;
  return (
    <Pressable role="button" aria-label={spoken} aria-current={selected ? 'true' : undefined} onPress={onPress} className="w-full p-2">
      <View className="aspect-[3/4] w-full">
        {/* the tile speaks for the picture in it */}
        <View aria-hidden className="flex-1">
          <PaperPicture page={page} longSidePx={360} label="" />
        </View>
        {selected ? <CropMarks /> : null}
      </View>
      <View className="items-center pt-1">
        <Words as="small" className="tabular-nums">{number}</Words>
        <PageFlag page={page} />
      </View>
    </Pressable>
  );
}
