import { plural, t } from '@lingui/core/macro';
import { View } from 'react-native';
import type { HandIn } from '../../../core/work/hand-in/handIn';
import { standing, type Assignment } from '../../../core/work/office/assignment';
import { Button } from '../../ui/Button';
import { Text } from '../../ui/Text';
import { dueTime } from '../../format/dueTime';
import { readableBytes } from '../../i18n/formats';
import { pagesAsked } from './ready/readyWords';
import { useNow } from '../../format/useNow';
import { useBoundFile, useEngine, useProfile } from '../../engine/useEngine';
import { rulesOf } from '../../college/rulesOf';

/** Where it is handed in, and what is asked for there; chosen here where it stands alone. */
export function AssignmentChoice({
  handIn,
  assignment,
  assignments,
  onRulesChanged,
}: {
  readonly handIn: HandIn;
  readonly assignment: Assignment | null;
  readonly assignments: readonly Assignment[];
  /** Binds the hand-in anew: the file was made by other rules. */
  readonly onRulesChanged: (handIn: HandIn) => void;
}) {
  const now = useNow();
  const { dispatch, documents } = useEngine();
  const profile = useProfile();
  const isBound = useBoundFile(handIn.id) !== undefined;
  // handed in for an assignment, it takes over its rules; a file that was bound by others is bound anew
  const attachTo = (to: Assignment | null): void =>
    void dispatch({
      kind: 'changeHandIn',
      handInId: handIn.id,
      assignmentId: to?.id ?? null,
      ...(to === null ? {} : { binding: rulesOf(to, profile) }),
      label: { key: 'assignment' },
    }).then(() => {
      const now = documents.state.getState().handIns[handIn.id];
      if (to !== null && isBound && now !== undefined) onRulesChanged(now);
    });
  if (assignment === null) {
    const open = assignments.filter((each) => standing(each, now) !== 'closed');
    return (
      <View className="gap-2">
        <Text variant="head">{t`For which assignment?`}</Text>
        {open.length === 0 ? (
          <Text variant="soft">
            {t`The course office has nothing open, or cannot be reached. The file can be downloaded and shared under Bind.`}
          </Text>
        ) : null}
        {open.map((each) => (
          <Button
            key={each.id}
            label={`${each.title}`}
            accessibilityLabel={`${each.title}, ${each.course}, ${dueTime(each.dueMs, now).left}`}
            onPress={() => attachTo(each)}
          />
        ))}
      </View>
    );
  }
  const { left, exact } = dueTime(assignment.dueMs, now);
  return (
    <View className="gap-1">
      <Text variant="soft">{assignment.course}</Text>
      <Text variant="head">{assignment.title}</Text>
      <Text className="tabular-nums">{t`${left}, ${exact}`}</Text>
      <Text variant="soft">{`${assignment.asks} ${t`${{ pages: pagesAsked(assignment) }}, one PDF up to ${{ size: readableBytes(assignment.maxBytes) }}.`} ${plural({ count: assignment.attempts }, { one: 'One attempt.', other: 'Up to # attempts.' })} ${assignment.marking}`}</Text>
      <View className="items-start pt-1">
        <Button
          variant="text"
          label={t`Remove assignment`}
          accessibilityLabel={t`Remove assignment from this hand-in`}
          onPress={() => attachTo(null)}
        />
      </View>
    </View>
  );
}
