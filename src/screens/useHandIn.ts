import type { HandIn } from '../../core/work/hand-in/handIn';
import { useDocuments } from '../engine/useEngine';

/** A hand-in by its id: still loading, not here, or itself. */
export function useHandIn(handInId: string): HandIn | 'loading' | 'missing' {
  const handIn = useDocuments((s) => s.handIns[handInId]);
  const loading = useDocuments((s) => s.loading);
  if (handIn !== undefined && handIn.removedAtMs === null) return handIn;
  return loading === 'loading' ? 'loading' : 'missing';
}
