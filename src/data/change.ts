import type { Operation } from '../../core/work/hand-in/operation';

/** An operation before it has an id; its time is now, where none is given. */
export type Change = Unstamped<Operation>;
type Unstamped<T> = T extends Operation ? Omit<T, 'id' | 'atMs'> & { readonly atMs?: number } : never;

export const stamped = (change: Change, id: string, nowMs: number): Operation => ({
  ...change,
  id,
  atMs: change.atMs ?? nowMs,
});
