import { PLAIN_BINDING, type BindSettings } from '../../../core/work/hand-in/bindSettings';
import type { Paper } from '../../../core/work/paper/paperSize';
import type { Plan } from './plan';

/** Begins a hand-in, for an assignment or alone. */
export interface CreateHandIn {
  readonly kind: 'createHandIn';
  readonly handInId: string;
  readonly title: string;
  readonly paper: Paper;
  readonly binding: Partial<BindSettings>;
  readonly assignmentId: string | null;
}

export function createHandIn({ handInId, title, paper, binding, assignmentId }: CreateHandIn): Plan {
  const settings = {
    ...(Object.keys(binding).length === 0 ? {} : { binding: { ...PLAIN_BINDING, ...binding } }),
    ...(assignmentId === null ? {} : { assignmentId }),
  };
  return {
    changes: [
      { kind: 'createHandIn', handInId, title, paper },
      ...(Object.keys(settings).length === 0 ? [] : [{ kind: 'changeHandIn', handInId, ...settings } as const]),
    ],
  };
}
