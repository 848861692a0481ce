import type { Plan } from './plan';

/** Takes a hand-in off the desk; it can be restored for 30 days. */
export interface DeleteHandIn {
  readonly kind: 'deleteHandIn';
  readonly handInId: string;
}
export interface RestoreHandIn {
  readonly kind: 'restoreHandIn';
  readonly handInId: string;
}
/** Deletes a hand-in with its pages and files so that it cannot be restored. */
export interface DeleteHandInForGood {
  readonly kind: 'deleteHandInForGood';
  readonly handInId: string;
}

export const deleteHandIn = ({ handInId }: DeleteHandIn): Plan => ({
  changes: [{ kind: 'changeHandIn', handInId, removed: true }],
});
export const restoreHandIn = ({ handInId }: RestoreHandIn): Plan => ({
  changes: [{ kind: 'changeHandIn', handInId, removed: false }],
});
export const deleteHandInForGood = ({ handInId }: DeleteHandInForGood): Plan => ({
  changes: [{ kind: 'deleteHandIn', handInId }],
});
