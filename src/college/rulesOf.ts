import type { ProfileView } from '../../contract/views';
import type { BindSettings } from '../../core/work/hand-in/bindSettings';
import type { Assignment } from '../../core/work/office/assignment';

/** What an assignment asks of a file: its limit, and its name by the office's own pattern, else by what this person uses for the course. */
export function rulesOf(
  { maxBytes, name, courseCode }: Assignment,
  { courseNames }: ProfileView,
): Partial<BindSettings> {
  const pattern = name ?? courseNames[courseCode];
  return { maxBytes, ...(pattern === undefined ? {} : { name: pattern }) };
}
