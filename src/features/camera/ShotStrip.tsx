import { t } from '@lingui/core/macro';
import { useEffect, useRef } from 'react';
import { Pressable, ScrollView, View } from 'react-native';
import type { Page } from '../../../core/handIn/handIn';
import { CropMarks } from '../../ui/CropMarks';
import { PageImage } from '../../page-picture/PageImage';
import { Text } from '../../ui/Text';
import { FINDING_WORDS } from '../../page-picture/findingText';

interface ShotStripProps {
  /** Room for several rows. */
  readonly wide: boolean;
  readonly pages: readonly Page[];
  /** The page being shot again. */
  readonly againId: string | null;
  readonly onOpen: (page: Page) => void;
  readonly onAgain: (page: Page) => void;
}

/** The kept pages in order, with their numbers; where a shot has something wrong, what, and a way to shoot it again. */
export function ShotStrip({ wide, pages, againId, onOpen, onAgain }: ShotStripProps) {
  const strip = useRef<ScrollView>(null);
  useEffect(() => strip.current?.scrollToEnd({ animated: false }), [pages.length]);
  return (
    <ScrollView
      ref={strip}
      horizontal={!wide}
      role="list"
      aria-label={t`Pages kept`}
      className={wide ? '' : 'max-h-[128px] grow-0'}
      contentContainerClassName={wide ? 'flex-row flex-wrap gap-2 p-2' : 'items-end gap-2 px-2'}
    >
      {pages.map((page, i) => (
        <Frame key={page.id} page={page} number={i + 1} again={page.id === againId} onOpen={onOpen} onAgain={onAgain} />
      ))}
    </ScrollView>
  );
}

function Frame({
  page,
  number,
  again,
  onOpen,
  onAgain,
}: {
  readonly page: Page;
  readonly number: number;
  readonly again: boolean;
  readonly onOpen: (page: Page) => void;
  readonly onAgain: (page: Page) => void;
}) {
  const worst = page.findings?.[0];
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
          aria-label={t`Shoot again: page ${number}`}
          onPress={() => onAgain(page)}
          className="min-h-[44px] justify-center px-2"
        >
          <Text variant="small" tone="beetLight" className="underline">
            {t`Shoot again`}
          </Text>
        </Pressable>
      )}
    </View>
  );
}
