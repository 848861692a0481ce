import { plural, t } from '@lingui/core/macro';
import { useRouter } from 'expo-router';
import { useState } from 'react';
import { ScrollView, View } from 'react-native';
import { shownPages, type HandIn, type Page } from '../../core/handIn/handIn';
import { Action } from '../components/Action';
import { NextBar } from '../components/NextBar';
import { PaperPicture } from '../components/PaperPicture';
import { SafeMark } from '../components/SafeMark';
import { UnsavedBanner } from '../components/UnsavedBanner';
import { Words } from '../components/Words';
import type { Command } from '../data/commands/planCommand';
import { useDocuments, useEngine } from '../engine/useEngine';
import { useNow } from '../format/useNow';
import { Message } from '../screens/Message';
import { deletedThings, restorableDays, type DeletedThing } from './deletedThings';

/** What was deleted in the last 30 days, the latest first, each with the way back and the way out. */
export function DeletedScreen() {
  const router = useRouter();
  const handIns = useDocuments((s) => s.handIns);
  const things = deletedThings(Object.values(handIns));
  return (
    <View className="flex-1 bg-paper">
      <View role="banner" className="border-b border-rule-faint px-4 py-3">
        <Words as="title">{t`Deleted`}</Words>
        <SafeMark />
      </View>
      <UnsavedBanner />
      <View role="main" className="flex-1">
        {things.length === 0 ? (
          <Message
            title={t`Nothing was deleted`}
            text={t`Hand-ins and pages that you delete are kept here for 30 days.`}
          />
        ) : (
          <ScrollView contentContainerClassName="mx-auto w-full max-w-[720px] gap-3 p-4">
            <Words as="soft">{t`Kept for 30 days after they were deleted, then gone for good.`}</Words>
            <View role="list" aria-label={t`What was deleted`} className="gap-2">
              {things.map((thing) => (
                <DeletedRow key={thing.page?.id ?? thing.handIn.id} thing={thing} />
              ))}
            </View>
          </ScrollView>
        )}
      </View>
      <NextBar label={t`Done`} onPress={() => (router.canGoBack() ? router.back() : router.replace('/'))} />
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
          <PaperPicture page={shown} longSidePx={360} label="" />
        )}
      </View>
      <View className="flex-1 gap-1">
        <Words as="strong" numberOfLines={2}>
          {page === null ? handIn.title : t`Page of “${{ title: handIn.title }}”`}
        </Words>
        <Words as="soft" numberOfLines={1}>
          {page === null ? plural(count, { one: 'Hand-in, # page', other: 'Hand-in, # pages' }) : page.fileName}
        </Words>
        <Words as="soft" className="tabular-nums">
          {plural(days, { one: 'Kept for # more day', other: 'Kept for # more days' })}
        </Words>
        {sure ? (
          <View className="gap-2">
            <Words>
              {page === null
                ? t`Delete it with all its pages and files? This cannot be undone.`
                : t`Delete this page for good? This cannot be undone.`}
            </Words>
            <View className="flex-row flex-wrap gap-2">
              <Action
                label={t`Delete for good`}
                spoken={t`Delete for good: ${name}`}
                onPress={() => void dispatch(forGood)}
              />
              <Action kind="quiet" label={t`Cancel`} onPress={() => setSure(false)} />
            </View>
          </View>
        ) : (
          <View className="flex-row flex-wrap gap-2">
            <Action label={t`Restore`} spoken={t`Restore ${name}`} onPress={() => void dispatch(restore)} />
            <Action
              kind="quiet"
              label={t`Delete for good`}
              spoken={t`Delete for good: ${name}`}
              onPress={() => setSure(true)}
            />
          </View>
        )}
      </View>
    </View>
  );
}
