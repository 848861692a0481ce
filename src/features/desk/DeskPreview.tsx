import { t } from '@lingui/core/macro';
import { useRouter } from 'expo-router';
import { ScrollView, View } from 'react-native';
import { boundPages } from '../../../core/work/hand-in/handIn';
import { dueTime } from '../../format/dueTime';
import { PageImage } from '../../page-picture/PageImage';
import { Button } from '../../ui/Button';
import { StatusMessage } from '../../ui/StatusMessage';
import { Text } from '../../ui/Text';
import { rowTitle, whatLacks, type DeskRow } from './deskRows';

const LONG_SIDE_PX = 720;
const MORE_SHOWN = 6;

/** What lies in the row that one looks at: its first page large, the next ones small, and the ways on. */
export function DeskPreview({ row, nowMs }: { readonly row: DeskRow; readonly nowMs: number }) {
  const router = useRouter();
  const { handIn, assignment, receipt } = row;
  const [first, ...others] = handIn === null ? [] : boundPages(handIn);
  const lack = whatLacks(row);
  const due = assignment === null ? null : dueTime(assignment.dueMs, nowMs);
  const title = rowTitle(row);
  return (
    <ScrollView role="region" aria-label={t`Preview`} contentContainerClassName="gap-3 p-4">
      <Text variant="head">{title}</Text>
      {due === null ? null : <Text variant="soft">{`${due.left}, ${due.exact}`}</Text>}
      <StatusMessage status={lack.kind}>{lack.says}</StatusMessage>
      {handIn === null ? null : (
        <View className="flex-row flex-wrap gap-2">
          <Button
            label={t`Open`}
            accessibilityLabel={t`Open ${title}`}
            onPress={() => router.push(`/hand-in/${handIn.id}`)}
          />
          {assignment === null ? null : (
            <Button
              label={receipt === null ? t`Ready check` : t`Receipt`}
              accessibilityLabel={receipt === null ? t`Ready check of ${title}` : t`Receipt of ${title}`}
              onPress={() => router.push(`/hand-in/${handIn.id}/hand-in`)}
            />
          )}
        </View>
      )}
      {first === undefined ? (
        <View aria-hidden className="aspect-[3/4] w-full border border-dashed border-rule" />
      ) : (
        <View role="img" aria-label={t`Page ${{ number: 1 }}`} className="aspect-[3/4] w-full">
          <PageImage page={first} longSidePx={LONG_SIDE_PX} label="" />
        </View>
      )}
      {others.length === 0 ? null : (
        <View className="flex-row flex-wrap gap-2">
          {others.slice(0, MORE_SHOWN).map((page, i) => (
            <View key={page.id} role="img" aria-label={t`Page ${{ number: i + 2 }}`} className="h-[72px] w-[54px]">
              <PageImage page={page} longSidePx={160} label="" />
            </View>
          ))}
          {others.length > MORE_SHOWN ? (
            <Text variant="soft">{t`${{ count: others.length - MORE_SHOWN }} more`}</Text>
          ) : null}
        </View>
      )}
    </ScrollView>
  );
}
