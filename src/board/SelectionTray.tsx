import { plural, t } from '@lingui/core/macro';
import ArrowRightLeft from 'lucide-react-native/icons/arrow-right-left';
import Copy from 'lucide-react-native/icons/copy';
import FileX from 'lucide-react-native/icons/file-x';
import RotateCw from 'lucide-react-native/icons/rotate-cw';
import Trash from 'lucide-react-native/icons/trash';
import X from 'lucide-react-native/icons/x';
import { useState } from 'react';
import { ScrollView, TextInput, View } from 'react-native';
import { shownPages, type HandIn } from '../../core/handIn/handIn';
import { Action } from '../components/Action';
import { Words } from '../components/Words';
import { useDocuments, useEngine } from '../engine/useEngine';

interface SelectionTrayProps {
  readonly handIn: HandIn;
  readonly chosen: readonly string[];
  readonly onChoose: (ids: readonly string[]) => void;
  readonly onDone: () => void;
}

/** What can be done with several pages at once. */
export function SelectionTray({ handIn, chosen, onChoose, onDone }: SelectionTrayProps) {
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
        <Words as="strong" aria-live="polite" className="tabular-nums">{t`${count} chosen`}</Words>
        <Action
          kind="quiet"
          label={selected.length === pages.length ? t`Choose none` : t`Choose all`}
          onPress={() => onChoose(selected.length === pages.length ? [] : pages.map(({ id }) => id))}
        />
      </View>
      {moving ? (
        <MoveTray handIn={handIn} chosen={selected.map(({ id }) => id)} onDone={() => setMoving(false)} />
      ) : null}
      <View role="toolbar" aria-label={t`Chosen pages`} className="flex-row">
        <Action
          kind="verb"
          icon={RotateCw}
          label={t`Rotate`}
          spoken={t`Rotate ${count} to the right`}
          disabled={none}
          onPress={() => void dispatch({ kind: 'turnPages', ...meant, turns: 1 })}
        />
        <Action
          kind="verb"
          icon={FileX}
          label={allOut ? t`Include` : t`Leave out`}
          spoken={`${allOut ? t`Include` : t`Leave out`} ${count}`}
          disabled={none}
          onPress={() => void dispatch({ kind: 'leaveOutPages', ...meant, leftOut: !allOut })}
        />
        <Action
          kind="verb"
          icon={Copy}
          label={t`Copy`}
          spoken={t`Copy ${count}`}
          disabled={none}
          onPress={() => void dispatch({ kind: 'duplicatePages', ...meant })}
        />
        <Action
          kind="verb"
          icon={ArrowRightLeft}
          label={t`Move`}
          spoken={t`Move pages`}
          on={moving}
          onPress={() => setMoving(!moving)}
        />
        <Action
          kind="verb"
          icon={Trash}
          label={t`Delete`}
          spoken={t`Delete ${count}`}
          disabled={none}
          onPress={() => void dispatch({ kind: 'deletePages', ...meant }).then(() => onChoose([]))}
        />
        <Action kind="verb" icon={X} label={t`Done`} spoken={t`Done choosing`} onPress={onDone} />
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
        <Words as="soft">{t`To place`}</Words>
        <TextInput
          aria-label={t`Place to move to, 1 to ${count}`}
          inputMode="numeric"
          value={number}
          onChangeText={setNumber}
          className="h-[44px] w-[72px] rounded border border-rule bg-sheet px-3 font-read text-read text-ink tabular-nums"
        />
        <Action
          label={t`Move there`}
          disabled={!usable}
          onPress={() => void dispatch({ kind: 'movePagesTo', handInId, pageIds: chosen, number: wanted }).then(onDone)}
        />
      </View>
      {number !== '' && !usable ? (
        <Words as="small" tone="amber" role="status">
          {chosen.length === 0 ? t`Choose pages first.` : t`Give a place from 1 to ${count}.`}
        </Words>
      ) : null}
      <Words as="soft" className="pt-2">
        {t`The whole hand-in`}
      </Words>
      <View className="flex-row flex-wrap gap-2 pt-1">
        <Action
          label={t`Reverse the order`}
          spoken={t`Reverse the order of all pages`}
          onPress={() => void dispatch({ kind: 'reverseOrder', handInId })}
        />
        <Action
          label={t`Sort by time taken`}
          spoken={t`Sort by time taken: all pages`}
          onPress={() => void dispatch({ kind: 'sortByTimeTaken', handInId })}
        />
      </View>
      {targets.length > 0 && chosen.length > 0 ? (
        <>
          <Words as="soft" className="pt-2">
            {t`To another hand-in`}
          </Words>
          {targets.map((other) => (
            <View key={other.id} className="flex-row items-center gap-2 py-1">
              <Words className="flex-1" numberOfLines={1}>
                {other.title}
              </Words>
              <Action
                kind="quiet"
                label={t`Copy`}
                spoken={t`Copy to ${{ title: other.title }}`}
                onPress={() =>
                  void dispatch({ kind: 'sendPages', handInId, pageIds: chosen, toId: other.id, keepHere: true }).then(
                    onDone,
                  )
                }
              />
              <Action
                kind="quiet"
                label={t`Move`}
                spoken={t`Move to ${{ title: other.title }}`}
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
