import { t } from '@lingui/core/macro';
import { View } from 'react-native';
import { shownPages, type HandIn } from '../../core/work/hand-in/handIn';
import type { Advice } from '../../core/work/order/advise';
import { Button } from '../ui/Button';
import { StatusMessage } from '../ui/StatusMessage';
import { useEngine } from '../engine/useEngine';
import { adviceWords } from './adviceText';
import { dismissAdvice } from './dismissedAdvice';
import { useOrderAdvice } from './useOrderAdvice';

/** What the pages themselves say about their order: one thing at a time, each with a way to take it up or wave it away. */
export function OrderAdvice({ handIn }: { readonly handIn: HandIn }) {
  const { dispatch } = useEngine();
  const { pages, all, dismissed } = useOrderAdvice(handIn);
  const advice = all.filter((each) => !dismissed.includes(keyOf(handIn, each)));
  const first = advice[0];
  if (first === undefined) return null;
  const number = (id: string): number => pages.findIndex((page) => page.id === id) + 1;
  const drop = (id: string): void =>
    void dispatch({ kind: 'leaveOutPages', handInId: handIn.id, pageIds: [id], leftOut: true });
  const words = adviceWords(first, number);
  const act = actionFor(
    first,
    number,
    drop,
    (ids) =>
      void dispatch({
        kind: 'orderPages',
        handInId: handIn.id,
        pageIds: withOthers(handIn, ids),
        label: { key: 'advisedOrder' },
      }),
  );
  return (
    <View className="flex-row flex-wrap items-center gap-1 border-b border-rule-faint px-3 pb-1" testID="order-advice">
      <View className="min-w-[180px] flex-1">
        <StatusMessage status="warning" announce>
          {words}
        </StatusMessage>
      </View>
      {act === null ? null : <Button variant="text" label={act.label} onPress={act.onPress} />}
      <Button
        variant="text"
        label={t`Leave it`}
        accessibilityLabel={t`Leave it as it is: ${words}`}
        onPress={() => dismissAdvice(keyOf(handIn, first))}
      />
    </View>
  );
}

/** The same advice on the same hand-in has the same key. */
export const keyOf = ({ id }: HandIn, advice: Advice): string => `${id} ${JSON.stringify(advice)}`;

/** The advised order of pages in the file, with those left out where they were. */
function withOthers(handIn: HandIn, ids: readonly string[]): readonly string[] {
  const rest = [...ids];
  return shownPages(handIn).map(({ id }) => (ids.includes(id) ? rest.shift()! : id));
}

/** What can be done about it at once, on a button; null where only the person knows. */
function actionFor(
  advice: Advice,
  number: (id: string) => number,
  drop: (id: string) => void,
  order: (ids: readonly string[]) => void,
): { readonly label: string; readonly onPress: () => void } | null {
  switch (advice.kind) {
    case 'blank':
      return { label: t`Leave it out`, onPress: () => drop(advice.id) };
    case 'alike':
      return { label: t`Leave ${{ page: number(advice.second) }} out`, onPress: () => drop(advice.second) };
    case 'order':
      return { label: t`Put in order`, onPress: () => order(advice.ids) };
    case 'gap':
      return null;
    case 'repeat':
      return { label: t`Leave ${{ page: number(advice.id) }} out`, onPress: () => drop(advice.id) };
  }
}
