import { plural, t } from '@lingui/core/macro';
import { View } from 'react-native';
import type { HandIn } from '../../core/handIn/handIn';
import { standing, type Assignment } from '../../core/ready/assignment';
import { Action } from '../components/Action';
import { Words } from '../components/Words';
import { dueTime } from '../format/dueTime';
import { readableBytes } from '../i18n/formats';
import { pagesAsked } from '../ready/readyWords';
import { useNow } from '../format/useNow';
import { useBind } from '../bind/useBind';
import { useBoundFile, useEngine, useProfile } from '../engine/useEngine';
import { rulesOf } from './rulesOf';

/** Where it is handed in, and what is asked for there; chosen here where it stands alone. */
export function AssignmentChoice({
  handIn,
  assignment,
  assignments,
}: {
  readonly handIn: HandIn;
  readonly assignment: Assignment | null;
  readonly assignments: readonly Assignment[];
}) {
  const now = useNow();
  const { dispatch, documents } = useEngine();
  const profile = useProfile();
  const isBound = useBoundFile(handIn.id) !== undefined;
  const bind = useBind();
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
      if (to !== null && isBound && now !== undefined) bind(now);
    });
  if (assignment === null) {
    const open = assignments.filter((each) => standing(each, now) !== 'closed');
    return (
      <View className="gap-2">
        <Words as="head">{t`For which assignment?`}</Words>
        {open.length === 0 ? (
          <Words as="soft">
            {t`The course office has nothing open, or cannot be reached. The file can be downloaded and shared under Bind.`}
          </Words>
        ) : null}
        {open.map((each) => (
          <Action
            key={each.id}
            label={`${each.title}`}
            spoken={`${each.title}, ${each.course}, ${dueTime(each.dueMs, now).left}`}
            onPress={() => attachTo(each)}
          />
        ))}
      </View>
    );
  }
  const { left, exact } = dueTime(assignment.dueMs, now);
  return (
    <View className="gap-1">
      <Words as="soft">{assignment.course}</Words>
      <Words as="head">{assignment.title}</Words>
      <Words className="tabular-nums">{t`${left}, ${exact}`}</Words>
      <Words as="soft">{`${assignment.asks} ${t`${{ pages: pagesAsked(assignment) }}, one PDF up to ${{ size: readableBytes(assignment.maxBytes) }}.`} ${plural({ count: assignment.attempts }, { one: 'One attempt.', other: 'Up to # attempts.' })} ${assignment.marking}`}</Words>
      <View className="items-start pt-1">
        <Action
          kind="quiet"
          label={t`Remove assignment`}
          spoken={t`Remove assignment from this hand-in`}
          onPress={() => attachTo(null)}
        />
      </View>
    </View>
  );
}
