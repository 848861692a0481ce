import { t } from '@lingui/core/macro';
import { memo, useEffect, useRef } from 'react';
import { FlatList, Pressable, View } from 'react-native';
import type { Page } from '../../../core/work/hand-in/handIn';
import { PageImage } from '../../page-picture/PageImage';
import { FINDING_WORDS } from '../../page-picture/findingText';
import { CropMarks } from '../../ui/CropMarks';
import { Text } from '../../ui/Text';

interface ShotStripProps {
  /** Room for several rows. */
  readonly wide: boolean;
  readonly pages: readonly Page[];
  /** The page that the next shot is for, where it is for one that is there. */
  readonly againId: string | null;
  readonly onOpen: (page: Page) => void;
  readonly onAgain: (page: Page) => void;
  /** Take a second photo, to fill a reflection from. */
  readonly onFill: (page: Page) => void;
}

const WIDE_COLUMNS = 5;

/** The kept pages in order, with their numbers; where a shot has something wrong, what, and the way to another. */
export const ShotStrip = memo(function ShotStrip({ wide, pages, againId, onOpen, onAgain, onFill }: ShotStripProps) {
  const strip = useRef<FlatList<Page>>(null);
  useEffect(() => strip.current?.scrollToEnd({ animated: false }), [pages.length]);
  const shape = wide
    ? { numColumns: WIDE_COLUMNS, contentContainerClassName: 'gap-2 p-2', columnWrapperClassName: 'gap-2' }
    : { horizontal: true, className: 'max-h-[128px] grow-0', contentContainerClassName: 'items-end gap-2 px-2' };
  return (
    <FlatList
      ref={strip}
      key={wide ? 'wide' : 'narrow'}
      role="list"
      aria-label={t`Pages kept`}
      data={pages}
      extraData={againId}
      keyExtractor={({ id }) => id}
      renderItem={({ item, index }) => (
        <Shot
          page={item}
          number={index + 1}
          again={item.id === againId}
          onOpen={onOpen}
          onAgain={onAgain}
          onFill={onFill}
        />
      )}
      {...shape}
    />
  );
});

interface ShotProps {
  readonly page: Page;
  readonly number: number;
  readonly again: boolean;
  readonly onOpen: (page: Page) => void;
  readonly onAgain: (page: Page) => void;
  readonly onFill: (page: Page) => void;
}

const Shot = memo(function Shot({ page, number, again, onOpen, onAgain, onFill }: ShotProps) {
  const worst = page.findings?.[0];
  const shines = worst === 'glare';
  const label = shines ? t`Second photo` : t`Shoot again`;
  return (
    <View role="listitem" className="items-center">
      <Pressable role="button" onPress={() => onOpen(page)} className="items-center px-1 pt-1">
        <View role="img" aria-label={t`Page ${number}`} className="h-[62px] w-[48px] fly-in">
          <PageImage page={page} longSidePx={160} label="" />
          {again ? <CropMarks colour="border-beet-light" /> : null}
        </View>
        <Text variant="small" tone="chalk" className="tabular-nums">
          {worst === undefined ? String(number) : `${number} ▲ ${t(FINDING_WORDS[worst])}`}
        </Text>
      </Pressable>
      {worst === undefined ? null : (
        <Pressable
          role="button"
          aria-label={
            shines ? t`Second photo of page ${number}, to fill the reflection` : t`Shoot again: page ${number}`
          }
          onPress={() => (shines ? onFill : onAgain)(page)}
          className="min-h-[44px] justify-center px-2"
        >
          <Text variant="small" tone="beetLight" className="underline">
            {label}
          </Text>
        </Pressable>
      )}
    </View>
  );
});
