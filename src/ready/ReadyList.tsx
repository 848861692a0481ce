import { useRouter } from 'expo-router';
import { View } from 'react-native';
import type { HandIn } from '../../core/handIn/handIn';
import type { ReadyFix, ReadyLine } from '../../core/ready/readyCheck';
import { Action } from '../components/Action';
import { Flag } from '../components/Flag';
import { Words } from '../components/Words';
import { changeNotes, useNotes } from '../office/sendingStore';

/** What still wants something done or said. */
export const openLines = (lines: readonly ReadyLine[], accepted: readonly string[]): readonly ReadyLine[] =>
  lines.filter(({ level, key }) => level === 'stop' || (level === 'doubt' && !accepted.includes(key)));

export const FIX_LABELS: Readonly<Record<ReadyFix['to'], string>> = {
  shoot: 'Add pages',
  pages: 'Open the pages',
  bind: 'Go to Bind',
  place: 'Show where',
  account: 'Go to sign-in',
  page: 'Open the page',
  again: 'Shoot it again',
};

/** The way to where a finding is fixed. */
export function useFix(handIn: HandIn, onFixHere: (to: ReadyFix['to']) => void): (fix: ReadyFix) => void {
  const router = useRouter();
  const base = `/hand-in/${handIn.id}` as const;
  return (fix) => {
    if (fix.to === 'page') router.push(`${base}/page/${fix.pageId}`);
    else if (fix.to === 'again') router.push(`${base}/shoot?again=${fix.pageId}`);
    else if (fix.to === 'shoot') router.push(`${base}/shoot`);
    else if (fix.to === 'bind') router.replace(`${base}/bind`);
    else if (fix.to === 'pages') router.replace(base);
    else onFixHere(fix.to);
  };
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
  const settled = lines.filter((line) => !open.includes(line));
  return (
    <View className="gap-3">
      <Words as="head">
        {open.length === 0
          ? 'Ready'
          : open.length === 1
            ? '1 thing before it is ready'
            : `${open.length} things before it is ready`}
      </Words>
      {open.length === 0 ? null : (
        <View role="list" aria-label="Still to do" className="gap-2">
          {open.map((line) => (
            <OpenLine key={line.key} handIn={handIn} line={line} accepted={accepted} onFixHere={onFixHere} />
          ))}
        </View>
      )}
      <View role="list" aria-label="In order" className="gap-1">
        {settled.map(({ key, level, says }) => (
          <View key={key} role="listitem" className="flex-row items-center justify-between gap-2">
            <View className="flex-1">
              <Flag kind="fine">{level === 'fine' ? says : `${says} You said it looks fine.`}</Flag>
            </View>
            {level === 'doubt' ? (
              <Action
                kind="quiet"
                label="Ask again"
                spoken={`Ask again: ${says}`}
                onPress={() => changeNotes(handIn.id, { accepted: accepted.filter((each) => each !== key) })}
              />
            ) : null}
          </View>
        ))}
      </View>
    </View>
  );
}

function OpenLine({
  handIn,
  line: { key, level, says, why, fix },
  accepted,
  onFixHere,
}: Pick<ReadyListProps, 'handIn' | 'onFixHere'> & { readonly line: ReadyLine; readonly accepted: readonly string[] }) {
  const go = useFix(handIn, onFixHere);
  return (
    <View role="listitem" className="gap-1 rounded border border-rule-faint bg-sheet p-3">
      <Flag kind={level === 'stop' ? 'broken' : 'look'}>{says}</Flag>
      {why === '' ? null : <Words as="soft">{why}</Words>}
      <View className="flex-row flex-wrap gap-2 pt-1">
        {fix === null ? null : (
          <Action label={FIX_LABELS[fix.to]} spoken={`${FIX_LABELS[fix.to]}: ${says}`} onPress={() => go(fix)} />
        )}
        {level === 'doubt' ? (
          <Action
            label="Looks fine"
            spoken={`Looks fine: ${says}`}
            onPress={() => changeNotes(handIn.id, { accepted: [...accepted, key] })}
          />
        ) : null}
      </View>
    </View>
  );
}
