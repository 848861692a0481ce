import { t } from '@lingui/core/macro';
import type { HandIn } from '../../core/work/hand-in/handIn';
import { fileNameFor } from '../../core/work/naming/fileNameFor';
import { nameByPattern, type NameFacts } from '../../core/work/naming/namePattern';
import type { ProfileView } from '../../contract/views';
import { useOfficeStore } from './officeStore';

const today = (now = new Date()): NameFacts['day'] => ({
  year: now.getFullYear(),
  month: now.getMonth() + 1,
  day: now.getDate(),
});

/** What is known for naming a hand-in's file. */
export function nameFacts(handIn: HandIn, { family, first, number }: ProfileView): NameFacts {
  const { assignments, receipts } = useOfficeStore.getState();
  const assignment = assignments.find(({ id }) => id === handIn.assignmentId);
  const attempt =
    1 + receipts.filter(({ assignmentId, withdrawn }) => assignmentId === handIn.assignmentId && !withdrawn).length;
  return {
    family,
    first,
    number,
    title: handIn.title,
    course: assignment?.courseCode ?? '',
    assignment: assignment?.title ?? handIn.title,
    attempt,
    day: today(),
  };
}

/** What the file is called: by the hand-in's convention, else by its title. */
export function fileNameOf(handIn: HandIn, profile: ProfileView): string {
  const { name } = handIn.binding;
  return name === null ? fileNameFor(handIn.title) : nameByPattern(name, nameFacts(handIn, profile));
}

/** The name of one of several numbered files. */
export const partName = (name: string, part: number, of: number): string =>
  name.replace(/\.pdf$/i, t` (part ${part} of ${of}).pdf`);
