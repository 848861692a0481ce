import { plural, t } from '@lingui/core/macro';
import { useRouter } from 'expo-router';
import { useState } from 'react';
import { ScrollView, View } from 'react-native';
import { shownPages, type HandIn, type Page } from '../../core/work/hand-in/handIn';
import { Button } from '../ui/Button';
import { PrimaryBar } from '../ui/PrimaryBar';
import { PageImage } from '../page-picture/PageImage';
import { SyncStatus } from '../frame/SyncStatus';
import { UnsavedBanner } from '../frame/UnsavedBanner';
import { Text } from '../ui/Text';
import type { Command } from '../data/commands/planCommand';
import { useDocuments, useEngine } from '../engine/useEngine';
import { useNow } from '../format/useNow';
import { EmptyState } from '../ui/EmptyState';
import { deletedThings, restorableDays, type DeletedThing } from '../features/desk/deleted/deletedThings';

/** What was deleted in the last 30 days, the latest first, each with the way back and the way out. */
export function DeletedScreen() {
  const router = useRouter();
  const handIns = useDocuments((s) => s.handIns);
  const things = deletedThings(Object.values(handIns));
  return (
    <View className="flex-1 bg-paper">
      <View role="banner" className="border-b border-rule-faint px-4 py-3">
        <Text variant="title">{t`Deleted`}</Text>
        <SyncStatus />
      </View>
      <UnsavedBanner />
      <View role="main" className="flex-1">
        {things.length === 0 ? (
          <EmptyState
            title={t`Nothing was deleted`}
            text={t`Hand-ins and pages that you delete are kept here for 30 days.`}
          />
        ) : (
          <ScrollView contentContainerClassName="mx-auto w-full max-w-[720px] gap-3 p-4">
            <Text variant="soft">{t`Kept for 30 days after they were deleted, then gone for good.`}</Text>
            <View role="list" aria-label={t`What was deleted`} className="gap-2">
              {things.map((thing) => (
                <DeletedRow key={thing.page?.id ?? thing.handIn.id} thing={thing} />
              ))}
            </View>
          </ScrollView>
        )}
      </View>
      <PrimaryBar label={t`Done`} onPress={() => (router.canGoBack() ? router.back() : router.replace('/'))} />
    </View>
  );
}

const nameOf = (handIn: HandIn, page: Page | null): string =>
  page === null ? handIn.title : t`${{ fileName: page.fileName }}, from ${{ title: handIn.title }}`;

function DeletedRow({ thing: { handIn, page, atMs } }: { readonly thing: DeletedThing }) {
  const { dispatch } = useEngine();
  const now = useNow();
  const [sure, setSure] = useState(false);
  const handInId = handIn.id;
  const name = nameOf(handIn, page);
  const shown = page ?? shownPages(handIn)[0] ?? null;
  const days = restorableDays(atMs, now);
  const count = shownPages(handIn).length;
  const restore: Command =
    page === null ? { kind: 'restoreHandIn', handInId } : { kind: 'restorePages', handInId, pageIds: [page.id] };
  const forGood: Command =
    page === null
      ? { kind: 'deleteHandInForGood', handInId }
      : { kind: 'deletePagesForGood', handInId, pageIds: [page.id] };
  return (
    <View role="listitem" className="flex-row gap-3 rounded border border-rule-faint bg-sheet p-3">
      <View className="h-[96px] w-[72px]" aria-hidden>
        {shown === null ? (
          <View className="h-full w-full border border-dashed border-rule" />
        ) : (
          <PageImage page={shown} longSidePx={360} label="" />
        )}
      </View>
      <View className="flex-1 gap-1">
        <Text variant="strong" numberOfLines={2}>
          {page === null ? handIn.title : t`Page of “${{ title: handIn.title }}”`}
        </Text>
        <Text variant="soft" numberOfLines={1}>
          {page === null ? plural(count, { one: 'Hand-in, # page', other: 'Hand-in, # pages' }) : page.fileName}
        </Text>
        <Text variant="soft" className="tabular-nums">
          {plural(days, { one: 'Kept for # more day', other: 'Kept for # more days' })}
        </Text>
        {sure ? (
          <View className="gap-2">
            <Text>
              {page === null
                ? t`Delete it with all its pages and files? This cannot be undone.`
                : t`Delete this page for good? This cannot be undone.`}
            </Text>
            <View className="flex-row flex-wrap gap-2">
              <Button
                label={t`Delete for good`}
                accessibilityLabel={t`Delete for good: ${name}`}
                onPress={() => void dispatch(forGood)}
              />
              <Button variant="text" label={t`Cancel`} onPress={() => setSure(false)} />
            </View>
          </View>
        ) : (
          <View className="flex-row flex-wrap gap-2">
            <Button label={t`Restore`} accessibilityLabel={t`Restore ${name}`} onPress={() => void dispatch(restore)} />
            <Button
              variant="text"
              label={t`Delete for good`}
              accessibilityLabel={t`Delete for good: ${name}`}
              onPress={() => setSure(true)}
            />
          </View>
        )}
      </View>
    </View>
  );
}
