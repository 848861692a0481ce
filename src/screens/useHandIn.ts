import type { HandIn } from '../../core/handIn/handIn';
import { useHandInStore } from '../stores/handInStore';

/** A hand-in by its id: still loading, not here, or itself. */
export function useHandIn(handInId: string): HandIn | 'loading' | 'missing' {
  const handIn = useHandInStore((s) => s.handIns[handInId]);
  const loading = useHandInStore((s) => s.loading);
  if (handIn !== undefined && !handIn.removed) return handIn;
  return loading === 'loading' ? 'loading' : 'missing';
}
