import type { MessageDescriptor } from '@lingui/core';
import { msg, plural, t } from '@lingui/core/macro';
import { useRouter } from 'expo-router';
import { View } from 'react-native';
import { boundPages, type HandIn } from '../../../../core/work/hand-in/handIn';
import { openLines, type ReadyFix, type ReadyLine, type ReadyPoint } from '../../../../core/work/ready/readyCheck';
import { Button } from '../../../ui/Button';
import { StatusMessage } from '../../../ui/StatusMessage';
import { Text } from '../../../ui/Text';
import { adviceWords } from '../../../order-advice/adviceText';
import { changeNotes, useNotes } from '../../../college/sendingStore';
import { PageImage } from '../../../page-picture/PageImage';
import { FINDING_WORDS } from '../../../page-picture/findingText';
import { groupsOf, repeatedDoubts, type DoubtKind, type ReadyGroup } from './readyGroups';
import { readyWords, type ReadyWords } from './readyWords';

/** A doubt that stands on several pages, named for all of them. */
const DOUBTS: Readonly<Record<DoubtKind, MessageDescriptor>> = {
  ...FINDING_WORDS,
  edgesUnsure: msg`check edges`,
  turnUnsure: msg`which way up?`,
  blank: msg`blank`,
};

export const FIX_LABELS: Readonly<Record<ReadyFix['to'], MessageDescriptor>> = {
  shoot: msg`Add pages`,
  pages: msg`Open the pages`,
  bind: msg`Go to Bind`,
  place: msg`Show where`,
  account: msg`Go to sign-in`,
  page: msg`Open page`,
  again: msg`Shoot it again`,
  fill: msg`Fill it from a second photo`,
};

/** The way to where a finding is fixed. */
export function useFix(handIn: HandIn, onFixHere: (to: ReadyFix['to']) => void): (fix: ReadyFix) => void {
  const router = useRouter();
  const base = `/hand-in/${handIn.id}` as const;
  return (fix) => {
    if (fix.to === 'page') router.push(`${base}/page/${fix.pageId}`);
    else if (fix.to === 'again') router.push(`${base}/shoot?again=${fix.pageId}`);
    else if (fix.to === 'fill') router.push(`${base}/shoot?fill=${fix.pageId}`);
    else if (fix.to === 'shoot') router.push(`${base}/shoot`);
    else if (fix.to === 'bind') router.replace(`${base}/bind`);
    else if (fix.to === 'pages') router.replace(base);
    else onFixHere(fix.to);
  };
}

/** What a point says, with the numbers that pages have in this hand-in. */
function useReadyWords(handIn: HandIn): (point: ReadyPoint) => ReadyWords {
  const pages = boundPages(handIn);
  const number = (id: string): number => pages.findIndex((page) => page.id === id) + 1;
  return (point) => readyWords(point, (advice) => adviceWords(advice, number));
}

interface ReadyListProps {
  readonly handIn: HandIn;
  readonly lines: readonly ReadyLine[];
  /** The fix is on this very screen. */
  readonly onFixHere: (to: ReadyFix['to']) => void;
}

/** Everything between this hand-in and acceptance: what was found, why it matters, and the tap that fixes it. */
export function ReadyList({ handIn, lines, onFixHere }: ReadyListProps) {
  const { accepted } = useNotes(handIn.id);
  const open = openLines(lines, accepted);
  const words = useReadyWords(handIn);
  const settled = lines.filter((line) => !open.includes(line));
  return (
    <View className="gap-3">
      <Text variant="head">
        {open.length === 0
          ? lines.some(({ level }) => level === 'wait')
            ? t`Nothing in the way so far`
            : t`Ready`
          : plural({ count: open.length }, { one: '# thing before it is ready', other: '# things before it is ready' })}
      </Text>
      {open.length === 0 ? null : (
        <View role="list" aria-label={t`Still to do`} className="gap-2">
          {groupsOf(open).map((group) => (
            <Group key={group.lines[0]!.key} handIn={handIn} group={group} onFixHere={onFixHere} />
          ))}
        </View>
      )}
      {repeatedDoubts(open).map(({ kind, keys }) => (
        <View key={kind} className="items-start">
          <Button
            label={t`Looks fine: all ${{ count: keys.length }} with “${{ doubt: t(DOUBTS[kind]) }}”`}
            onPress={() => changeNotes(handIn.id, { accepted: [...accepted, ...keys] })}
          />
        </View>
      ))}
      <View role="list" aria-label={t`In order`} className="gap-1">
        {settled.map(({ key, level, point }) => {
          const { says } = words(point);
          return (
            <View key={key} role="listitem" className="flex-row items-center justify-between gap-2">
              <View className="flex-1">
                <StatusMessage status={level === 'wait' ? 'wait' : 'success'}>
                  {level === 'doubt' ? t`${says} You said it looks fine.` : says}
                </StatusMessage>
              </View>
              {level === 'doubt' ? (
                <Button
                  variant="text"
                  label={t`Ask again`}
                  accessibilityLabel={t`Ask again: ${says}`}
                  onPress={() => changeNotes(handIn.id, { accepted: accepted.filter((each) => each !== key) })}
                />
              ) : null}
            </View>
          );
        })}
      </View>
    </View>
  );
}

/** A page with all that is open on it, or a thing that is about no page. */
function Group({
  handIn,
  group: { pageId, lines },
  onFixHere,
}: Pick<ReadyListProps, 'handIn' | 'onFixHere'> & { readonly group: ReadyGroup }) {
  const { accepted } = useNotes(handIn.id);
  const page = boundPages(handIn).find(({ id }) => id === pageId);
  const doubts = lines.filter(({ level }) => level === 'doubt');
  const number = boundPages(handIn).findIndex(({ id }) => id === pageId) + 1;
  return (
    <View role="listitem" className="flex-row gap-3 rounded border border-rule-faint bg-sheet p-3">
      {page === undefined ? null : (
        <View aria-hidden className="h-[64px] w-[48px]">
          <PageImage page={page} longSidePx={360} label="" />
        </View>
      )}
      <View className="flex-1 gap-2">
        {lines.map((line) => (
          <OpenLine key={line.key} handIn={handIn} line={line} onFixHere={onFixHere} />
        ))}
        {doubts.length < 2 ? null : (
          <View className="items-start border-t border-rule-faint pt-2">
            <Button
              label={t`All of page ${number} looks fine`}
              onPress={() => changeNotes(handIn.id, { accepted: [...accepted, ...doubts.map(({ key }) => key)] })}
            />
          </View>
        )}
      </View>
    </View>
  );
}

function OpenLine({
  handIn,
  line: { key, level, point, fix },
  onFixHere,
}: Pick<ReadyListProps, 'handIn' | 'onFixHere'> & { readonly line: ReadyLine }) {
  const { accepted } = useNotes(handIn.id);
  const go = useFix(handIn, onFixHere);
  const { says, why } = useReadyWords(handIn)(point);
  return (
    <View className="gap-1">
      <StatusMessage status={level === 'stop' ? 'error' : 'warning'}>{says}</StatusMessage>
      {why === '' ? null : <Text variant="soft">{why}</Text>}
      <View className="-mx-2 flex-row flex-wrap">
        {fix === null ? null : (
          <Button
            variant="text"
            label={t(FIX_LABELS[fix.to])}
            accessibilityLabel={`${t(FIX_LABELS[fix.to])}: ${says}`}
            onPress={() => go(fix)}
          />
        )}
        {level === 'doubt' ? (
          <Button
            variant="text"
            label={t`Looks fine`}
            accessibilityLabel={t`Looks fine: ${says}`}
            onPress={() => changeNotes(handIn.id, { accepted: [...accepted, key] })}
          />
        ) : null}
      </View>
    </View>
  );
}
