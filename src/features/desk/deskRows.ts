import { plural, t } from '@lingui/core/macro';
import { boundPages, type HandIn } from '../../../core/work/hand-in/handIn';
import { standing, type Assignment, type Receipt } from '../../../core/work/office/assignment';
import { wantsLook } from '../../../core/work/recipe/recipe';

/** A place on the desk: a hand-in, an assignment nobody has begun, or both together. */
export interface DeskRow {
  readonly handIn: HandIn | null;
  readonly assignment: Assignment | null;
  /** The one that counts, where it was handed in. */
  readonly receipt: Receipt | null;
}

/** What lies on the desk: what is due first on top, then what stands alone, the latest first, then what has been received. */
export function deskRows(
  handIns: readonly HandIn[],
  assignments: readonly Assignment[],
  receipts: readonly Receipt[],
  nowMs: number,
): readonly DeskRow[] {
  const receiptOf = (assignment: Assignment | null): Receipt | null =>
    receipts.find(({ assignmentId, withdrawn }) => !withdrawn && assignmentId === assignment?.id) ?? null;
  const begun = handIns.map((handIn): DeskRow => {
    const assignment = assignments.find(({ id }) => id === handIn.assignmentId) ?? null;
    return { handIn, assignment, receipt: receiptOf(assignment) };
  });
  const notBegun = assignments
    .filter(
      (assignment) =>
        standing(assignment, nowMs) !== 'closed' && !handIns.some(({ assignmentId }) => assignmentId === assignment.id),
    )
    .map((assignment): DeskRow => ({ handIn: null, assignment, receipt: receiptOf(assignment) }));
  const rank = ({ assignment, receipt }: DeskRow): number => (receipt !== null ? 2 : assignment === null ? 1 : 0);
  const within = ({ assignment, handIn, receipt }: DeskRow): number =>
    receipt !== null ? -receipt.atMs : assignment === null ? -(handIn?.changedAtMs ?? 0) : assignment.dueMs;
  return [...begun, ...notBegun].sort((a, b) => rank(a) - rank(b) || within(a) - within(b));
}

export const rowId = ({ handIn, assignment }: DeskRow): string => handIn?.id ?? assignment?.id ?? '';

export const rowTitle = ({ handIn, assignment }: DeskRow): string => handIn?.title ?? assignment?.title ?? '';

/** What a row still lacks, or what has become of it, in few words. */
export function whatLacks({ handIn, assignment, receipt }: DeskRow): {
  readonly kind: 'success' | 'warning';
  readonly says: string;
} {
  if (receipt !== null)
    return {
      kind: 'success',
      says: receipt.notes.length > 0 ? t`returned with notes` : t`received, ${{ number: receipt.number }}`,
    };
  if (handIn === null) return { kind: 'warning', says: t`not begun` };
  const pages = boundPages(handIn);
  if (pages.length === 0) return { kind: 'warning', says: t`needs photos` };
  const missing = (assignment?.leastPages ?? 1) - pages.length;
  if (missing > 0)
    return {
      kind: 'warning',
      says: plural(missing, { one: '# page still to shoot', other: '# pages still to shoot' }),
    };
  const unsure = pages.filter(({ recipe }) => wantsLook(recipe)).length;
  if (unsure > 0)
    return { kind: 'warning', says: plural(unsure, { one: '# page to look at', other: '# pages to look at' }) };
  return assignment === null
    ? { kind: 'success', says: t`edges found` }
    : { kind: 'warning', says: t`not handed in yet` };
}
