import type { HandIn } from '../../../core/work/hand-in/handIn';
import { useEngine, useProfile } from '../../engine/useEngine';
import { fileNameOf } from '../../college/fileName';

/** Binds a hand-in as it is, with its name and the profile as they are. */
export function useBind(): (handIn: HandIn, inParts?: boolean) => void {
  const { binding } = useEngine();
  const profile = useProfile();
  return (handIn, inParts = false) =>
    void binding.bind(handIn, { inParts, profile, nameOf: (bound) => fileNameOf(bound, profile) });
}
