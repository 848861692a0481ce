import { plural, t } from '@lingui/core/macro';
import Trash from 'lucide-react-native/icons/trash';
import { Link, useRouter } from 'expo-router';
import { Pressable, View } from 'react-native';
import { boundPages, type HandIn } from '../../../core/work/hand-in/handIn';
import { Button } from '../../ui/Button';
import { StatusMessage } from '../../ui/StatusMessage';
import { PageImage } from '../../page-picture/PageImage';
import { Text } from '../../ui/Text';
import { dueTime } from '../../format/dueTime';
import { rowTitle, whatLacks, type DeskRow } from './deskRows';
import { useNewHandIn } from './useNewHandIn';

const MOST_SHEETS_DRAWN = 8;

/** A hand-in as a stack of paper, as thick as it has pages, with its due tag and what it still lacks; or the place where one will lie. */
export function DeskStack({
  row,
  nowMs,
  onDelete,
}: {
  readonly row: DeskRow;
  readonly nowMs: number;
  readonly onDelete: (handIn: HandIn) => void;
}) {
  const router = useRouter();
  const { forAssignment } = useNewHandIn();
  const { handIn, assignment, receipt } = row;
  const pages = handIn === null ? [] : boundPages(handIn);
  const count = plural({ count: pages.length }, { one: '# page', other: '# pages' });
  const first = pages[0];
  const lack = whatLacks(row);
  const due = assignment === null || receipt !== null ? null : dueTime(assignment.dueMs, nowMs);
  const title = rowTitle(row);
  const inside = (
    <>
      <View className="h-[96px] w-[72px]" aria-hidden>
        {Array.from({ length: Math.min(MOST_SHEETS_DRAWN, Math.max(0, pages.length - 1)) }, (_, i) => (
          <View
            key={i}
            className="absolute h-full w-full border border-rule-faint bg-paper"
            style={{ left: (i + 1) * 2, top: (i + 1) * 2, zIndex: -i }}
          />
        ))}
        {first === undefined ? (
          <View className="h-full w-full border border-dashed border-rule" />
        ) : (
          <PageImage page={first} longSidePx={360} label="" />
        )}
      </View>
      <View className="flex-1 justify-center gap-1">
        <Text variant="head" numberOfLines={2}>
          {title}
        </Text>
        <Text variant="soft" className="tabular-nums">
          {[assignment?.course, handIn === null ? undefined : count].filter((each) => each !== undefined).join(', ')}
        </Text>
        {due === null ? null : (
          <Text variant="small" className="tabular-nums">{t`${{ left: due.left }}, ${{ exact: due.exact }}`}</Text>
        )}
        <StatusMessage status={lack.kind}>{lack.says}</StatusMessage>
      </View>
    </>
  );
  if (handIn === null) {
    return (
      <View className="rounded border border-dashed border-rule p-3">
        <View className="flex-row gap-4">{inside}</View>
        <View className="items-start pt-3">
          <Button
            label={t`Start it`}
            accessibilityLabel={t`Start it: ${title}`}
            onPress={() => void forAssignment(assignment!).then((id) => router.push(`/hand-in/${id}`))}
          />
        </View>
      </View>
    );
  }
  return (
    <View className="rounded border border-rule-faint bg-sheet">
      <Link href={`/hand-in/${handIn.id}`} asChild>
        <Pressable className="flex-row gap-4 p-3 active:bg-beet-tint">{inside}</Pressable>
      </Link>
      <View className="flex-row flex-wrap justify-between px-3 pb-3">
        {assignment === null ? (
          <View />
        ) : (
          <Button
            label={receipt === null ? t`Ready check` : t`Receipt`}
            accessibilityLabel={receipt === null ? t`Ready check of ${title}` : t`Receipt of ${title}`}
            onPress={() => router.push(`/hand-in/${handIn.id}/hand-in`)}
          />
        )}
        <Button
          variant="text"
          icon={Trash}
          label={t`Delete`}
          accessibilityLabel={t`Delete ${title}`}
          onPress={() => onDelete(handIn)}
        />
      </View>
    </View>
  );
}
