import type { HandIn, Page } from '../../../core/work/hand-in/handIn';
import type { Change } from '../change';
import type { HistoryStep } from '../history';

/** What a command comes to: the changes it makes and the step that takes them back; a plan without a step cannot be undone. */
export interface Plan {
  readonly changes: readonly Change[];
  readonly step?: HistoryStep;
  /** Photos that are on this device already and go up before the changes. */
  readonly originalIds?: readonly string[];
}

/** Something that is done again just as it was done first. */
export const undoable = (
  label: HistoryStep['label'],
  forward: readonly Change[],
  inverse: readonly Change[],
): Plan => ({ changes: forward, step: { label, forward, inverse } });

/** The pages meant, in the hand-in's order; those no longer there are left out. */
export const pagesOf = (handIn: HandIn, pageIds: readonly string[]): readonly Page[] =>
  handIn.pages.filter(({ id }) => pageIds.includes(id));
