import { useEngine, useProfile } from '../../engine/useEngine';
import { activeLanguage } from '../../i18n/languages';
import { rulesOf } from '../../college/rulesOf';
import type { Assignment } from '../../../core/work/office/assignment';

/** Begins hand-ins as this person likes them: alone under a title, or for an assignment with its title and rules. */
export function useNewHandIn(): {
  readonly alone: (title: string) => Promise<string>;
  readonly forAssignment: (assignment: Assignment) => Promise<string>;
} {
  const { dispatch, newId } = useEngine();
  const profile = useProfile();
  const usual = { language: activeLanguage(), ...(profile.name === null ? {} : { name: profile.name }) };
  const create = async (title: string, assignment: Assignment | null): Promise<string> => {
    const handInId = newId();
    const binding = { ...usual, ...(assignment === null ? {} : rulesOf(assignment, profile)) };
    await dispatch({
      kind: 'createHandIn',
      handInId,
      title,
      paper: profile.paper,
      binding,
      assignmentId: assignment?.id ?? null,
    });
    return handInId;
  };
  return { alone: (title) => create(title, null), forAssignment: (assignment) => create(assignment.title, assignment) };
}
