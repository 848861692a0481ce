import { msg, t } from '@lingui/core/macro';
import Check from 'lucide-react-native/icons/check';
import { memo } from 'react';
import { Pressable, View } from 'react-native';
import type { Page } from '../../core/work/hand-in/handIn';
import { CropMarks } from '../ui/CropMarks';
import { PageStatus } from './PageStatus';
import { PageImage } from './PageImage';
import { Text } from '../ui/Text';

const TURNED = [null, msg`, turned right`, msg`, upside down`, msg`, turned left`] as const;

interface PageTileProps {
  readonly page: Page;
  /** Its number in the file; null where it is left out. */
  readonly number: number | null;
  /** Where it lies among all pages. */
  readonly place: number;
  readonly count: number;
  readonly selected: boolean;
  /** Pressing it chooses it, and does not open it. */
  readonly choosing: boolean;
  /** `held` is the keys held: Shift for all up to it, Ctrl or ⌘ for it as well. */
  readonly onPress: (pageId: string, held: { readonly range: boolean; readonly add: boolean }) => void;
}

const heldKeys = ({ shiftKey, ctrlKey, metaKey }: MouseEvent): { range: boolean; add: boolean } => ({
  range: shiftKey,
  add: ctrlKey || metaKey,
});

/** A page as on a contact sheet, drawn anew only when something of it changes: its picture, its number under it, and a flag where something wants a look. */
export const PageTile = memo(function PageTile({
  page,
  number,
  place,
  count,
  selected,
  choosing,
  onPress,
}: PageTileProps) {
  const turned = TURNED[page.recipe.quarterTurns];
  const spoken = t`Page ${place} of ${count}${{ leftOut: number === null ? t`, left out` : '' }}${{ turned: turned === null ? '' : t(turned) }}`;
  return (
    <Pressable
      role="button"
      {...(choosing ? { 'aria-pressed': selected } : selected ? { 'aria-current': 'true' as const } : {})}
      onPress={({ nativeEvent }) => onPress(page.id, heldKeys(nativeEvent as unknown as MouseEvent))}
      className="w-full p-2"
    >
      <View className={`aspect-[3/4] w-full ${number === null ? 'opacity-50' : ''}`}>
        {/* the tile is named by what is in it: this, its number and its flag */}
        <View role="img" aria-label={spoken} className="flex-1">
          <PageImage page={page} longSidePx={360} label="" />
        </View>
        {selected ? <CropMarks /> : null}
        {choosing && selected ? (
          <View aria-hidden className="absolute end-1 top-1 h-6 w-6 items-center justify-center bg-beet">
            <Check size={16} color="rgb(var(--on-beet))" />
          </View>
        ) : null}
      </View>
      <View className="min-h-[40px] items-center pt-1">
        <Text variant="small" className="tabular-nums">
          {number ?? t`left out`}
        </Text>
        <PageStatus page={page} />
      </View>
    </Pressable>
  );
});
