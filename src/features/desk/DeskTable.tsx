import { plural, t } from '@lingui/core/macro';
import ArrowDown from 'lucide-react-native/icons/arrow-down';
import ArrowUp from 'lucide-react-native/icons/arrow-up';
import Trash from 'lucide-react-native/icons/trash';
import { createColumnHelper, getCoreRowModel, getSortedRowModel, useReactTable } from '@tanstack/react-table';
import { Link, useRouter } from 'expo-router';
import { useEffect } from 'react';
import { Pressable, ScrollView, View } from 'react-native';
import { boundPages, type HandIn } from '../../../core/work/hand-in/handIn';
import { useStore } from 'zustand';
import { useEngine } from '../../engine/useEngine';
import { dueTime } from '../../format/dueTime';
import { readableBytes } from '../../i18n/formats';
import { Button } from '../../ui/Button';
import { StatusMessage } from '../../ui/StatusMessage';
import { Text } from '../../ui/Text';
import { rowId, rowTitle, whatLacks, type DeskRow } from './deskRows';
import { useNewHandIn } from './useNewHandIn';

interface DeskTableProps {
  /** In the desk's own order: what is due first on top. */
  readonly rows: readonly DeskRow[];
  readonly nowMs: number;
  /** The row that is shown beside the table. */
  readonly shownId: string | null;
  readonly onShow: (row: DeskRow) => void;
  readonly onDelete: (handIn: HandIn) => void;
}

const column = createColumnHelper<DeskRow>();
const WIDTHS: Readonly<Record<string, string>> = {
  title: 'min-w-0 flex-1',
  due: 'w-[150px]',
  pages: 'w-[68px]',
  state: 'w-[180px]',
  size: 'w-[76px]',
};
const ACTIONS = 'w-[52px]';

/** The desk where there is width for it: every hand-in in a line, sorted by any of its columns. */
export function DeskTable({ rows, nowMs, shownId, onShow, onDelete }: DeskTableProps) {
  const files = useShownFiles(rows);
  const columns = [
    column.accessor(rowTitle, { id: 'title', header: t`Hand-in` }),
    column.accessor(({ assignment }) => assignment?.dueMs, { id: 'due', header: t`Due`, sortUndefined: 'last' }),
    column.accessor(({ handIn }) => (handIn === null ? 0 : boundPages(handIn).length), {
      id: 'pages',
      header: t`Pages`,
    }),
    column.accessor((row) => whatLacks(row).says, { id: 'state', header: t`State` }),
    column.accessor(({ handIn }) => (handIn === null ? undefined : files[handIn.id]), {
      id: 'size',
      header: t`Size`,
      sortUndefined: 'last',
    }),
  ];
  const table = useReactTable({
    data: rows as DeskRow[],
    columns,
    getRowId: rowId,
    getCoreRowModel: getCoreRowModel(),
    getSortedRowModel: getSortedRowModel(),
  });
  return (
    <ScrollView contentContainerClassName="p-4">
      <View role="table" aria-label={t`Hand-ins`}>
        <View role="rowgroup">
          <View role="row" className="flex-row items-end border-b border-rule">
            {table.getFlatHeaders().map(({ id, column: each }) => {
              const sorted = each.getIsSorted();
              const Arrow = sorted === 'asc' ? ArrowUp : ArrowDown;
              const name = String(each.columnDef.header);
              return (
                <View
                  key={id}
                  role="columnheader"
                  aria-sort={sorted === false ? 'none' : sorted === 'asc' ? 'ascending' : 'descending'}
                  className={WIDTHS[id]}
                >
                  <Pressable
                    role="button"
                    aria-label={t`${name}: sort by it`}
                    onPress={() => each.toggleSorting()}
                    className="min-h-[44px] flex-row items-center gap-1 px-2 active:bg-beet-tint"
                  >
                    <Text variant="small" tone={sorted === false ? 'soft' : 'beet'}>
                      {name}
                    </Text>
                    {sorted === false ? null : (
                      <View aria-hidden>
                        <Arrow size={14} color="rgb(var(--beet))" />
                      </View>
                    )}
                  </Pressable>
                </View>
              );
            })}
            <View role="columnheader" aria-label={t`Actions`} className={ACTIONS} />
          </View>
        </View>
        <View role="rowgroup">
          {table.getRowModel().rows.map(({ id, original }) => (
            <TableRow
              key={id}
              row={original}
              nowMs={nowMs}
              shown={id === shownId}
              bytes={original.handIn === null ? undefined : files[original.handIn.id]}
              onShow={onShow}
              onDelete={onDelete}
            />
          ))}
        </View>
      </View>
    </ScrollView>
  );
}

interface TableRowProps {
  readonly row: DeskRow;
  readonly nowMs: number;
  readonly shown: boolean;
  readonly bytes: number | undefined;
  readonly onShow: (row: DeskRow) => void;
  readonly onDelete: (handIn: HandIn) => void;
}

function TableRow({ row, nowMs, shown, bytes, onShow, onDelete }: TableRowProps) {
  const router = useRouter();
  const { forAssignment } = useNewHandIn();
  const { handIn, assignment, receipt } = row;
  const title = rowTitle(row);
  const lack = whatLacks(row);
  const due = assignment === null || receipt !== null ? null : dueTime(assignment.dueMs, nowMs);
  const count = handIn === null ? 0 : boundPages(handIn).length;
  const named = (
    <>
      <Text variant="strong" numberOfLines={2} className="shrink">
        {title}
      </Text>
      {assignment === null ? null : (
        <Text variant="label" tone="soft" numberOfLines={1} className="w-full">
          {assignment.course}
        </Text>
      )}
    </>
  );
  return (
    <View
      role="row"
      // shown beside the table as soon as one looks at it, with the mouse or the keyboard
      {...{ onPointerEnter: () => onShow(row), onFocus: () => onShow(row) }}
      className={`min-h-[60px] flex-row items-center border-b border-rule-faint ${shown ? 'bg-beet-tint' : ''}`}
    >
      <View role="cell" className={WIDTHS.title}>
        {handIn === null ? (
          <Pressable
            role="button"
            aria-label={t`${title}: start it`}
            onPress={() => void forAssignment(assignment!).then((id) => router.push(`/hand-in/${id}`))}
            className="min-h-[60px] justify-center px-2 py-2"
          >
            {named}
          </Pressable>
        ) : (
          <Link href={`/hand-in/${handIn.id}`} asChild>
            <Pressable className="min-h-[60px] justify-center px-2 py-2">{named}</Pressable>
          </Link>
        )}
      </View>
      <View role="cell" className={`${WIDTHS.due} px-2`}>
        {due === null ? null : (
          <>
            <Text variant="small">{due.left}</Text>
            <Text variant="label" tone="soft" className="tabular-nums">
              {due.exact}
            </Text>
          </>
        )}
      </View>
      <View role="cell" className={`${WIDTHS.pages} px-2`}>
        <Text variant="small" className="tabular-nums">
          {handIn === null ? '' : plural({ count }, { one: '# page', other: '# pages' })}
        </Text>
      </View>
      <View role="cell" className={`${WIDTHS.state} px-2`}>
        <StatusMessage status={lack.kind}>{lack.says}</StatusMessage>
      </View>
      <View role="cell" className={`${WIDTHS.size} px-2`}>
        <Text variant="small" className="tabular-nums">
          {bytes === undefined ? '' : readableBytes(bytes)}
        </Text>
      </View>
      <View role="cell" className={ACTIONS}>
        {handIn === null ? null : (
          <Button
            variant="text"
            icon={Trash}
            label=""
            accessibilityLabel={t`Delete ${title}`}
            onPress={() => onDelete(handIn)}
          />
        )}
      </View>
    </View>
  );
}

/** The size of the bound file of each hand-in, in bytes, where this device has one. */
function useShownFiles(rows: readonly DeskRow[]): Readonly<Record<string, number>> {
  const { boundFiles } = useEngine();
  const files = useStore(boundFiles.state, (s) => s.files);
  const ids = rows.flatMap(({ handIn }) => (handIn === null ? [] : [handIn.id])).join(' ');
  useEffect(() => {
    for (const id of ids.split(' ').filter((each) => each !== '')) void boundFiles.showKept(id);
  }, [ids, boundFiles]);
  return Object.fromEntries(Object.entries(files).map(([id, { blob }]) => [id, blob.size]));
}
