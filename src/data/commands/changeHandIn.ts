import type { BindSettings } from '../../../core/work/hand-in/bindSettings';
import type { HandIn } from '../../../core/work/hand-in/handIn';
import type { Paper } from '../../../core/work/paper/paperSize';
import type { StepLabel } from '../stepLabel';
import { undoable, type Plan } from './plan';

/** Changes what a hand-in is called, what it is for, or how it is bound; what is left out stays. */
export interface ChangeHandIn {
  readonly kind: 'changeHandIn';
  readonly handInId: string;
  readonly title?: string;
  readonly paper?: Paper;
  readonly assignmentId?: string | null;
  readonly binding?: Partial<BindSettings>;
  readonly label: StepLabel;
}

export function changeHandIn(
  { handInId, label, binding, title, paper, assignmentId }: ChangeHandIn,
  handIn: HandIn,
): Plan {
  const given = {
    ...(title === undefined ? {} : { title }),
    ...(paper === undefined ? {} : { paper }),
    ...(assignmentId === undefined ? {} : { assignmentId }),
  };
  const before = Object.fromEntries(Object.keys(given).map((name) => [name, handIn[name as keyof typeof given]]));
  const settings = (which: BindSettings): { binding?: BindSettings } =>
    binding === undefined ? {} : { binding: which };
  return undoable(
    label,
    [{ kind: 'changeHandIn', handInId, ...given, ...settings({ ...handIn.binding, ...binding }) }],
    [{ kind: 'changeHandIn', handInId, ...before, ...settings(handIn.binding) }],
  );
}
