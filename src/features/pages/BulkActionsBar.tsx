import { plural, t } from '@lingui/core/macro';
import ArrowRightLeft from 'lucide-react-native/icons/arrow-right-left';
import Copy from 'lucide-react-native/icons/copy';
import FileX from 'lucide-react-native/icons/file-x';
import RotateCw from 'lucide-react-native/icons/rotate-cw';
import Trash from 'lucide-react-native/icons/trash';
import X from 'lucide-react-native/icons/x';
import { useState } from 'react';
import { ScrollView, TextInput, View } from 'react-native';
import { shownPages, type HandIn } from '../../../core/work/hand-in/handIn';
import { Button } from '../../ui/Button';
import { Text } from '../../ui/Text';
import { useDocuments, useEngine } from '../../engine/useEngine';

interface BulkActionsBarProps {
  readonly handIn: HandIn;
  readonly chosen: readonly string[];
  readonly onChoose: (ids: readonly string[]) => void;
  readonly onDone: () => void;
}

/** What can be done with several pages at once. */
export function BulkActionsBar({ handIn, chosen, onChoose, onDone }: BulkActionsBarProps) {
  const { dispatch } = useEngine();
  const pages = shownPages(handIn);
  const selected = pages.filter(({ id }) => chosen.includes(id));
  const none = selected.length === 0;
  const meant = { handInId: handIn.id, pageIds: selected.map(({ id }) => id) };
  const [moving, setMoving] = useState(false);
  const count = plural({ count: selected.length }, { one: '# page', other: '# pages' });
  const allOut = !none && selected.every((page) => page.leftOut);
  return (
    <View className="gap-1 border-t border-rule-faint bg-paper pt-1">
      <View className="flex-row items-center justify-between px-3">
        <Text variant="strong" aria-live="polite" className="tabular-nums">{t`${count} chosen`}</Text>
        <Button
          variant="text"
          label={selected.length === pages.length ? t`Choose none` : t`Choose all`}
          onPress={() => onChoose(selected.length === pages.length ? [] : pages.map(({ id }) => id))}
        />
      </View>
      {moving ? (
        <MoveTray handIn={handIn} chosen={selected.map(({ id }) => id)} onDone={() => setMoving(false)} />
      ) : null}
      <View role="toolbar" aria-label={t`Chosen pages`} className="flex-row flex-wrap">
        <Button
          variant="toolbar"
          icon={RotateCw}
          label={t`Rotate`}
          accessibilityLabel={t`Rotate ${count} to the right`}
          disabled={none}
          onPress={() => void dispatch({ kind: 'turnPages', ...meant, turns: 1 })}
        />
        <Button
          variant="toolbar"
          icon={FileX}
          label={allOut ? t`Include` : t`Leave out`}
          accessibilityLabel={`${allOut ? t`Include` : t`Leave out`} ${count}`}
          disabled={none}
          onPress={() => void dispatch({ kind: 'leaveOutPages', ...meant, leftOut: !allOut })}
        />
        <Button
          variant="toolbar"
          icon={Copy}
          label={t`Copy`}
          accessibilityLabel={t`Copy ${count}`}
          disabled={none}
          onPress={() => void dispatch({ kind: 'duplicatePages', ...meant })}
        />
        <Button
          variant="toolbar"
          icon={ArrowRightLeft}
          label={t`Move`}
          accessibilityLabel={t`Move pages`}
          pressed={moving}
          onPress={() => setMoving(!moving)}
        />
        <Button
          variant="toolbar"
          icon={Trash}
          label={t`Delete`}
          accessibilityLabel={t`Delete ${count}`}
          disabled={none}
          onPress={() => void dispatch({ kind: 'deletePages', ...meant }).then(() => onChoose([]))}
        />
        <Button variant="toolbar" icon={X} label={t`Done`} accessibilityLabel={t`Done choosing`} onPress={onDone} />
      </View>
    </View>
  );
}

function MoveTray({
  handIn,
  chosen,
  onDone,
}: {
  readonly handIn: HandIn;
  readonly chosen: readonly string[];
  readonly onDone: () => void;
}) {
  const { dispatch } = useEngine();
  const others = useDocuments((s) => s.handIns);
  const targets = Object.values(others).filter((other) => other.id !== handIn.id && other.removedAtMs === null);
  const handInId = handIn.id;
  const [number, setNumber] = useState('');
  const wanted = Number(number);
  const count = shownPages(handIn).length;
  const usable = chosen.length > 0 && Number.isInteger(wanted) && wanted >= 1 && wanted <= count;
  return (
    <ScrollView className="max-h-[230px] px-3">
      <View className="flex-row items-center gap-2">
        <Text variant="soft">{t`To place`}</Text>
        <TextInput
          aria-label={t`Place to move to, 1 to ${count}`}
          inputMode="numeric"
          value={number}
          onChangeText={setNumber}
          className="h-[44px] w-[72px] rounded border border-rule bg-sheet px-3 font-read text-read text-ink tabular-nums"
        />
        <Button
          label={t`Move there`}
          disabled={!usable}
          onPress={() => void dispatch({ kind: 'movePagesTo', handInId, pageIds: chosen, number: wanted }).then(onDone)}
        />
      </View>
      {number !== '' && !usable ? (
        <Text variant="small" tone="amber" role="status">
          {chosen.length === 0 ? t`Choose pages first.` : t`Give a place from 1 to ${count}.`}
        </Text>
      ) : null}
      <Text variant="soft" className="pt-2">
        {t`The whole hand-in`}
      </Text>
      <View className="flex-row flex-wrap gap-2 pt-1">
        <Button
          label={t`Reverse the order`}
          accessibilityLabel={t`Reverse the order of all pages`}
          onPress={() => void dispatch({ kind: 'reverseOrder', handInId })}
        />
        <Button
          label={t`Sort by time taken`}
          accessibilityLabel={t`Sort by time taken: all pages`}
          onPress={() => void dispatch({ kind: 'sortByTimeTaken', handInId })}
        />
      </View>
      {targets.length > 0 && chosen.length > 0 ? (
        <>
          <Text variant="soft" className="pt-2">
            {t`To another hand-in`}
          </Text>
          {targets.map((other) => (
            <View key={other.id} className="flex-row items-center gap-2 py-1">
              <Text className="flex-1" numberOfLines={1}>
                {other.title}
              </Text>
              <Button
                variant="text"
                label={t`Copy`}
                accessibilityLabel={t`Copy to ${{ title: other.title }}`}
                onPress={() =>
                  void dispatch({ kind: 'sendPages', handInId, pageIds: chosen, toId: other.id, keepHere: true }).then(
                    onDone,
                  )
                }
              />
              <Button
                variant="text"
                label={t`Move`}
                accessibilityLabel={t`Move to ${{ title: other.title }}`}
                onPress={() =>
                  void dispatch({ kind: 'sendPages', handInId, pageIds: chosen, toId: other.id, keepHere: false }).then(
                    onDone,
                  )
                }
              />
            </View>
          ))}
        </>
      ) : null}
    </ScrollView>
  );
}
