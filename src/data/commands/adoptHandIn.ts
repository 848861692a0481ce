import type { HandIn } from '../../../core/work/hand-in/handIn';
import { rebuildHandIn } from '../rebuildHandIn';
import type { Plan } from './plan';

/** Takes a whole hand-in in whose originals are on this device: an imported one. */
export interface AdoptHandIn {
  readonly kind: 'adoptHandIn';
  readonly handInId: string;
  readonly handIn: HandIn;
}
export const adoptHandIn = ({ handIn }: AdoptHandIn): Plan => ({
  changes: rebuildHandIn(handIn),
  originalIds: [...new Set(handIn.pages.map(({ originalId }) => originalId))],
});
